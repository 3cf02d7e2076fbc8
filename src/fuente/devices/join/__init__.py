"""What joins two filters: bulkheads or a pipe below water, or a fall from one into the next."""
