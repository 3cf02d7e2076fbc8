"""What follows from a document: the network, situations, faults in time, trials, loads."""
