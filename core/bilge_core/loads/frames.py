"""Frames: the car's (ISO 8855: x forward, y left, z up) and the engine's own."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bilge_core.build import Car
from bilge_core.errors import InvalidQuantity

STANDARD_GRAVITY = 9.80665

_NOSE_YAW = {"front": 0.0, "left": 90.0, "rear": 180.0, "right": -90.0}

Array = NDArray[np.float64]


def engine_to_car(car: Car) -> Array:
    """Rotation that turns a vector of the engine's frame into the car's frame.

    Lean turns the engine about its crank (positive to the engine's right),
    then the nose is lifted, then the engine is set along or across the car.

    Parameters
    ----------
    car : Car
        How the engine sits.

    Returns
    -------
    ndarray, shape (3, 3)
        Orthonormal, determinant 1.

    Examples
    --------
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
    car: Car,
    forward: Array | float,
    leftward: Array | float,
    upward: Array | float | None = None,
) -> Array:
    """Apparent gravity in the engine's frame, from the car's accelerations.

    ``g_app = g − a_car``: braking sends oil forward, a right turn sends it left.

    Parameters
    ----------
    car : Car
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
