"""The oil circuit as the build document holds it: components with ports, runs between ports."""
