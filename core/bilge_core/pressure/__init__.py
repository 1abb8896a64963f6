"""The engine's side of the pickup: what the pump swallows, and what it draws down."""

from bilge_core.pressure.suction import critical_depth, gas_share, pump_volume_flow

__all__ = ["critical_depth", "gas_share", "pump_volume_flow"]
