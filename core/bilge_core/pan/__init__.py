"""The pan: zones to solid, exact levels, the mouth, sections to draw."""

from bilge_core.pan.assembly import Pan, assemble_pan
from bilge_core.pan.columns import Columns, column_of, column_volumes, columns_of
from bilge_core.pan.faces import Face, inside_faces
from bilge_core.pan.filling import hot_oil, oil_in_pan, running_oil
from bilge_core.pan.levels import level_of_volume, volume_below
from bilge_core.pan.plates import PlacedGate, PlacedPlate
from bilge_core.pan.solid import Prism, Solid, solid_from_prisms
from bilge_core.pan.zone_shape import ZoneShape
from bilge_core.pickup.mouth import Mouth, bare_share

VERSION = "pan-3"
"""To be changed with anything that changes the space, its levels or what is refused."""

__all__ = [
    "VERSION",
    "Columns",
    "Face",
    "Mouth",
    "Pan",
    "PlacedGate",
    "PlacedPlate",
    "Prism",
    "Solid",
    "ZoneShape",
    "assemble_pan",
    "bare_share",
    "column_of",
    "column_volumes",
    "columns_of",
    "hot_oil",
    "inside_faces",
    "level_of_volume",
    "oil_in_pan",
    "running_oil",
    "solid_from_prisms",
    "volume_below",
]
