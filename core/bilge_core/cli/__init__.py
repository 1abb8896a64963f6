"""The command line of the core: no server, no database."""
