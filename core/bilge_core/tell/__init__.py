"""SI to the figures that everybody reads: command line and server the same."""
