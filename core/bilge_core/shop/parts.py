"""Generic parts with cost, lead time and weight: an invented starting set.

No figure is anybody's price. A workshop types its own over any of them; until it does, they are
marked as invented wherever they are read.
"""

from __future__ import annotations

from dataclasses import dataclass

from bilge_core.errors import InvalidQuantity
from bilge_core.shop.fittings import fitting_rows, loose_rows


@dataclass(frozen=True)
class ShopPart:
    """A part as it is bought.

    key : what it is known by
    words : its name
    per : what one of it is
    cost : of one, in the workshop's money
    lead_days : until it is there [d]
    weight : of one [kg]
    """

    key: str
    words: str
    per: str
    cost: float
    lead_days: int
    weight: float

    def __post_init__(self) -> None:
        if self.cost < 0.0 or self.lead_days < 0:
            raise InvalidQuantity(self.key, (self.cost, self.lead_days), "nil or more")


_ROWS = (
    ("oil", "engine oil", "litre", 16.0, 0, 0.86),
    ("oil_filter", "oil filter", "piece", 14.0, 1, 0.4),
    ("pan_gasket", "pan gasket or sealant", "pan", 28.0, 2, 0.1),
    ("pickup_seal", "pickup joint's seal", "piece", 9.0, 2, 0.0),
    ("pickup_brace", "brace for the pickup tube", "piece", 18.0, 0, 0.1),
    ("plate_sheet", "sheet for a plate, 2 mm", "plate", 14.0, 1, 0.3),
    ("gate_rubber", "rubber gate with its hinge", "piece", 22.0, 4, 0.1),
    ("gate_metal", "metal gate with its hinge", "piece", 34.0, 4, 0.15),
    ("tray_sheet", "sheet for a tray, louvred", "piece", 85.0, 6, 0.9),
    ("scraper", "crank scraper", "piece", 95.0, 8, 0.4),
    ("sump_sheet", "sheet for a piece of the sump", "piece", 38.0, 1, 0.6),
    ("pan_made", "pan by a fabricator", "piece", 620.0, 15, 1.5),
    ("spacer_plate", "spacer plate for the pan", "piece", 150.0, 8, 0.9),
    ("long_bolts", "longer pan bolts and studs", "set", 24.0, 3, 0.1),
    ("pickup_spacer", "spacer for the pickup", "piece", 22.0, 4, 0.1),
    ("tube", "steel tube for a pickup", "piece", 26.0, 2, 0.2),
    ("bell", "pickup bell with its screen", "piece", 48.0, 5, 0.2),
    ("bung", "weld bung or through-fitting", "piece", 12.0, 2, 0.1),
    ("hose", "hose with both ends", "line", 58.0, 3, 0.5),
    ("hard_line", "hard line, bent and flared", "line", 32.0, 1, 0.3),
    ("accumulator", "accumulator with its gauge", "piece", 290.0, 5, 3.2),
    ("valve_by_hand", "ball valve with its lever", "piece", 48.0, 3, 0.4),
    ("valve_electric", "electric valve with its switch", "piece", 165.0, 5, 0.7),
    ("check_valve", "check valve", "piece", 62.0, 4, 0.2),
    ("tee", "tee", "piece", 17.0, 2, 0.1),
    ("remote_filter", "remote filter base", "piece", 74.0, 4, 0.6),
    ("take_off_plate", "take-off plate in the filter's place", "piece", 46.0, 4, 0.3),
    ("cooler", "oil cooler, air", "piece", 185.0, 4, 1.6),
    ("plate_cooler", "plate heat exchanger", "piece", 240.0, 6, 2.1),
    ("sandwich_plate", "sandwich plate", "piece", 58.0, 4, 0.4),
    ("thermostat", "oil thermostat", "piece", 72.0, 4, 0.4),
    ("regulator", "external pressure regulator", "piece", 130.0, 6, 0.5),
    ("restrictor", "restrictor", "piece", 9.0, 2, 0.0),
    ("breather", "breather", "piece", 34.0, 2, 0.3),
    ("catch_can", "catch can", "piece", 88.0, 4, 0.9),
    ("scavenge_stage", "scavenge stage of an outside pump", "stage", 240.0, 14, 0.9),
    ("pump_drive", "dry sump drive: pulleys, belt, bracket", "set", 310.0, 14, 1.9),
    ("oil_tank", "dry sump tank", "piece", 420.0, 14, 3.4),
    ("separator", "air-oil separator", "piece", 190.0, 10, 0.8),
    ("drain_cock", "drain cock", "piece", 14.0, 2, 0.1),
    ("cover", "cover or block-off plate to be tapped", "piece", 32.0, 4, 0.2),
    ("jets", "set of piston jets", "set", 90.0, 7, 0.1),
    ("turbo", "turbo", "piece", 900.0, 10, 6.0),
    ("fitting", "other part of the circuit", "piece", 40.0, 4, 0.3),
)

PARTS: dict[str, ShopPart] = {
    row[0]: ShopPart(*row) for row in (*_ROWS, *loose_rows(), *fitting_rows())
}
"""All generic parts by their keys. Costs, lead times and weights invented."""


BOUGHT_AS: dict[str, str] = {
    "accumulator": "accumulator", "check_valve": "check_valve", "tee": "tee",
    "remote_filter": "remote_filter", "take_off_plate": "take_off_plate", "cooler": "cooler",
    "plate_cooler": "plate_cooler", "sandwich_plate": "sandwich_plate",
    "thermostat": "thermostat", "regulator": "regulator", "restrictor": "restrictor",
    "breather": "breather", "catch_can": "catch_can", "filter": "oil_filter",
    "scavenge_stage": "scavenge_stage", "tank": "oil_tank", "separator": "separator",
    "pickup": "tube", "bulkhead": "bulkhead", "drain_cock": "drain_cock", "cover": "cover",
    "jets": "jets", "turbo": "turbo",
}  # fmt: skip
"""What a kind of component is bought as; any other is `fitting`."""

OF_THE_CAR = frozenset({"water_source"})
"""Kinds of component that the car has: neither bought nor fitted."""

_VALVES = {"by_hand": "valve_by_hand", "electric": "valve_electric"}


def bought_as(kind: str, worked: str | None = None) -> str:
    """The part that a component is bought as; valves by how they are worked.

    Examples
    --------
    >>> bought_as("tank"), bought_as("shut_off_valve", "electric"), bought_as("sender_tee")
    ('oil_tank', 'valve_electric', 'fitting')
    """
    if kind == "shut_off_valve":
        return _VALVES[worked or "by_hand"]
    return BOUGHT_AS.get(kind, "fitting")
