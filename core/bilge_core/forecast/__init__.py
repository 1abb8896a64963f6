"""From what the pickup finds to what a builder wants to know: dips, dry time, verdict."""

from bilge_core.forecast.dips import Dip, DryTime, find_dips
from bilge_core.forecast.pressure import PressureDip, PressureOverLap, find_pressure_dips
from bilge_core.forecast.settled import SettledForecast, forecast_settled
from bilge_core.forecast.verdict import Verdict, give_verdict

VERSION = "forecast-2"
"""Of dips, verdict and their words: to be changed with anything that changes what they say."""

__all__ = [
    "VERSION",
    "Dip",
    "DryTime",
    "PressureDip",
    "PressureOverLap",
    "SettledForecast",
    "Verdict",
    "find_dips",
    "find_pressure_dips",
    "forecast_settled",
    "give_verdict",
]
