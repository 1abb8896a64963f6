"""The oil itself: grades, viscosity, density."""

from bilge_core.oil.density import density, hot_volume_ratio
from bilge_core.oil.grades import GRADES, Grade, sae_range_at_100_c
from bilge_core.oil.viscosity import kinematic_viscosity

__all__ = [
    "GRADES",
    "Grade",
    "density",
    "hot_volume_ratio",
    "kinematic_viscosity",
    "sae_range_at_100_c",
]
