"""Axes: the car's (ISO 8855: x forward, y left, z up) and the engine's own."""

from __future__ import annotations

import math
from typing import Protocol

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY

_NOSE_YAW = {"front": 0.0, "left": 90.0, "rear": 180.0, "right": -90.0}


class Mounted(Protocol):
    """How an engine sits in a car: where the crank's nose points, and its lean and rake [°]."""

    @property
    def nose_points(self) -> str:
        """The side of the car that the crank's nose points to."""

    @property
    def lean_right_deg(self) -> float:
        """Leaned toward the engine's own right."""

    @property
    def nose_up_deg(self) -> float:
        """The crank's nose higher than its tail."""


def engine_to_car(car: Mounted) -> Array:
    """Rotation that turns a vector of the engine's frame into the car's frame.

    Lean turns the engine about its crank (positive to the engine's right),
    then the nose is lifted, then the engine is set along or across the car.

    Parameters
    ----------
    car : Mounted
        How the engine sits.

    Returns
    -------
    ndarray, shape (3, 3)
        Orthonormal, determinant 1.

    Examples
    --------
    >>> from bilge_core.document.car import Car
    >>> across = Car(nose_points="right", lean_right_deg=0, nose_up_deg=0)
    >>> forward_in_car = engine_to_car(across).T @ [1.0, 0.0, 0.0]
    >>> forward_in_car.round(6).tolist()  # the car's front is the engine's left
    [0.0, 1.0, 0.0]
    """
    yaw = math.radians(_NOSE_YAW[car.nose_points])
    roll = math.radians(car.lean_right_deg)
    pitch = -math.radians(car.nose_up_deg)
    about_z = np.array(
        [[math.cos(yaw), -math.sin(yaw), 0], [math.sin(yaw), math.cos(yaw), 0], [0, 0, 1]]
    )
    about_y = np.array(
        [[math.cos(pitch), 0, math.sin(pitch)], [0, 1, 0], [-math.sin(pitch), 0, math.cos(pitch)]]
    )
    about_x = np.array(
        [[1, 0, 0], [0, math.cos(roll), -math.sin(roll)], [0, math.sin(roll), math.cos(roll)]]
    )
    return np.asarray(about_z @ about_y @ about_x, dtype=np.float64)


LEAST_UPWARD = 0.1 * STANDARD_GRAVITY
"""Over a crest the oil is taken to be held down by no less [m/s2]: in free fall it lies nowhere."""


def apparent_gravity(
    car: Mounted,
    forward: Array | float,
    leftward: Array | float,
    upward: Array | float | None = None,
) -> Array:
    """Apparent gravity in the engine's frame, from the car's accelerations.

    ``g_app = g − a_car``: braking sends oil forward, a right turn sends it left.

    Parameters
    ----------
    car : Mounted
        How the engine sits.
    forward, leftward : float or ndarray, shape (n,)
        The car's acceleration [m/s2] as a body-fixed sensor reads it, forward
        and to the left; such a sensor already feels banking and body roll.
    upward : float or ndarray, shape (n,), optional
        As such a sensor reads it upward [m/s2], standard gravity on the level
        and taken as that when it is not logged; at least `LEAST_UPWARD` is used.

    Returns
    -------
    ndarray, shape (3,) or (n, 3)
        Apparent gravity [m/s2], engine frame.

    Raises
    ------
    InvalidQuantity
        If an acceleration is not finite.

    Examples
    --------
    >>> from bilge_core.document.car import Car
    >>> car = Car(nose_points="front", lean_right_deg=0, nose_up_deg=0)
    >>> apparent_gravity(car, -9.80665, 0.0).round(3).tolist()  # braking at 1 g
    [9.807, 0.0, -9.807]
    """
    forward = np.asarray(forward, dtype=np.float64)
    leftward = np.asarray(leftward, dtype=np.float64)
    felt = np.asarray(STANDARD_GRAVITY if upward is None else upward, dtype=np.float64)
    for name, value in (("forward", forward), ("leftward", leftward), ("upward", felt)):
        if not np.all(np.isfinite(value)):
            raise InvalidQuantity(f"{name} acceleration", "not a number", "finite")
    in_car = np.stack(
        np.broadcast_arrays(-forward, -leftward, -np.maximum(felt, LEAST_UPWARD)), axis=-1
    )
    return np.asarray(in_car @ engine_to_car(car))


def up_from(apparent_gravity: Array) -> Array:
    """ "Up", of length one: against apparent gravity; shapes (3,) or (n, 3).

    Raises
    ------
    InvalidQuantity
        If apparent gravity is nil or not finite.
    """
    gravity = np.asarray(apparent_gravity, dtype=np.float64)
    length = np.linalg.norm(gravity, axis=-1, keepdims=True)
    if not np.all(np.isfinite(length)) or np.any(length == 0.0):
        raise InvalidQuantity("apparent gravity", "nil or not a number", "finite and not nil")
    return np.asarray(-gravity / length)


def standing_gravity(car: Mounted) -> Array:
    """Gravity in the engine's frame with the car at rest on level ground, shape (3,) [m/s2].

    Examples
    --------
    >>> from bilge_core.document.car import Car
    >>> standing_gravity(Car(nose_points="front", lean_right_deg=0, nose_up_deg=0)).tolist()
    [0.0, 0.0, -9.80665]
    """
    return apparent_gravity(car, 0.0, 0.0)


def standing_up(car: Mounted) -> Array:
    """ "Up" in the engine's frame with the car at rest on level ground, shape (3,).

    Examples
    --------
    >>> from bilge_core.document.car import Car
    >>> leaned = Car(nose_points="front", lean_right_deg=30, nose_up_deg=0)
    >>> standing_up(leaned)[1:].round(3).tolist()  # the engine's left is higher
    [0.5, 0.866]
    """
    return up_from(standing_gravity(car))
