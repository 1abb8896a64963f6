"""The pickup's tube, its joint and what holds it."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

JOINT = Rule("joint_seal", "The pickup's joint has a new seal", COMMON)
BRACES = Rule("tube_brace", "The tube is braced, not its bell or joint alone", COMMON)
TUBE_SPEED = Rule(
    "tube_speed", "Oil goes up the tube at 3 m/s at most", "ours", high=3.0, unit="m/s"
)
INLET_DEPRESSION = Rule(
    "inlet_depression",
    "A pump's inlet is at most 0.25 bar under the air's pressure",
    "from memory, 0.2 to 0.3 bar: beyond it oil gives off its gas and the pump fills badly",
    high=25e3,
    unit="Pa",
)
RULES = (JOINT, BRACES, TUBE_SPEED, INLET_DEPRESSION)


def check_joint(seal: str, age: str, field: str) -> Check | None:
    """The joint's seal and its age; a brazed joint has none to look at.

    `field` is the run's end that has them.
    """
    if seal == "brazed":
        return None
    if seal == "none":
        return Check(
            "bad",
            "The pickup joint has no seal: it is a suction joint and draws air at any g",
            f"{field}.seal",
            JOINT,
        )
    if age == "new":
        return Check("good", "The pickup joint has a new seal", field, JOINT)
    old = "used before" if age == "reused" else "of unknown age"
    return Check(
        "caution",
        f"The pickup joint's seal is {old}: renew it before any remedy, an old one "
        "draws air at any g and looks like slosh",
        f"{field}.age",
        JOINT,
    )


def check_braces(at_bell: bool, at_tube: bool) -> Check | None:
    """What holds the pickup besides its joint."""
    if at_tube:
        return None
    where = "at its bell only" if at_bell else "at its joint only"
    return Check(
        "caution",
        f"The pickup is held {where}: the tube flexes and cracks along its edge; brace it "
        "at the tube as well",
        "pickup.braces.at_tube",
        BRACES,
    )


def check_tube(bore: float, speed: float, rpm: float, field: str) -> Check:
    """The speed of oil [m/s] up a tube of a bore [m] at a speed of the crank."""
    words = f"Oil goes up the {bore * 1e3:.0f} mm tube at {speed:.1f} m/s at {rpm:.0f} rpm"
    if TUBE_SPEED.holds(speed):
        return Check("good", words, field, TUBE_SPEED)
    return Check("caution", f"{words}: quick for a suction line", field, TUBE_SPEED)
