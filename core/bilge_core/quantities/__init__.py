"""Units at the edge: typed figures in, SI inside, figures out."""

from bilge_core.quantities.figures import convert, field_unit, parse_figure, si_from
from bilge_core.quantities.kinds import KINDS, Kind, UnitSystem

__all__ = ["KINDS", "Kind", "UnitSystem", "convert", "field_unit", "parse_figure", "si_from"]
