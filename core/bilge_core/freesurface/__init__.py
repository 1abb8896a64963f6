"""The detailed solver: oil that moves in three dimensions, with a free surface."""
