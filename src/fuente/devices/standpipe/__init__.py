"""A standpipe in the tank itself, or an upturned elbow in a bulkhead: the drain of a rack's tank."""
