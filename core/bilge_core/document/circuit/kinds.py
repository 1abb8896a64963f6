"""Every kind of component, in the order in which oil meets them."""

from __future__ import annotations

from typing import Annotated, get_args

from pydantic import Field

from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.dry_and_gas import Breather, CatchCan, Separator, Tank
from bilge_core.document.circuit.engine_side import (
    Crankcase,
    Gallery,
    Head,
    Jets,
    TimingChest,
    Turbo,
)
from bilge_core.document.circuit.feeding import (
    Accumulator,
    CheckValve,
    Cooler,
    Filter,
    PlateCooler,
    RemoteFilter,
    SandwichPlate,
    TakeOffPlate,
    Thermostat,
    WaterSource,
)
from bilge_core.document.circuit.joining import (
    Bulkhead,
    Cover,
    DrainCock,
    Restrictor,
    SenderTee,
    ShutOffValve,
    Tee,
)
from bilge_core.document.circuit.pumps import (
    PanRegion,
    PickupTube,
    PressureStage,
    Regulator,
    Relief,
    ScavengeStage,
)

AnyComponent = Annotated[
    PanRegion | PickupTube | PressureStage | Relief | Regulator | SandwichPlate | TakeOffPlate
    | Filter | RemoteFilter | Thermostat | Cooler | PlateCooler | WaterSource | Accumulator
    | CheckValve | ShutOffValve | Restrictor | Tee | SenderTee | Bulkhead | DrainCock | Cover
    | Gallery | Jets | Head | TimingChest | Turbo | Crankcase | ScavengeStage | Separator | Tank
    | CatchCan | Breather,
    Field(discriminator="kind"),
]  # fmt: skip

CLASSES: dict[str, type[Component]] = {
    each.model_fields["kind"].annotation.__args__[0]: each
    for each in get_args(get_args(AnyComponent)[0])
}
"""From each kind to its class."""
