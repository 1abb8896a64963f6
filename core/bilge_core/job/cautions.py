"""What is said where work can hurt somebody, or cost an engine: common practice, no source.

Local codes, the class's rules and licensed people decide; these words are reminders.
"""

from __future__ import annotations

CAUTIONS: dict[str, str] = {
    "stands": "Stands rated for the car, two independent supports, level ground. Never a jack "
    "alone.",
    "hot_oil": "Hot oil burns. Let it cool until a hand stays on the pan.",
    "waste": "Old oil goes where local codes send it, never into a drain.",
    "pressure_vessel": "An accumulator is a pressure vessel: let the pressure off before anything "
    "is opened, never over its rating, its relief left fitted.",
    "valve": "Shut the valve while the pressure is still high; shut at idle it keeps nothing.",
    "fire": "Solvents, welding, old oil vapour: fire. Washed, aired, an extinguisher in reach.",
    "weld": "Structural welds and pressure parts: licensed or certified people.",
    "rotating": "No solvent spray toward the rotating assembly.",
    "case_bolts": "Bolts beside the pickup may hold the case together: leave those that are not "
    "the pickup's.",
    "swarf": "Swarf in a sump is in a bearing next: caught, wiped out by hand, looked at with a "
    "lamp.",
    "rough_cast": "Cast walls are rough: each piece is fitted by hand, none by its drawing alone.",
    "engine_hung": "Lifting or holding an engine: rated gear, nobody under it.",
    "chassis": "Cutting or welding a chassis member: only a qualified fabricator, and only where "
    "the class's rules allow it.",
    "local_rules": "Waste oil, noise, emissions, scrutineering: local codes and the organiser's "
    "rules decide, not this card.",
    "air_test": "Air under water: low pressure, eyes covered. Never full line pressure.",
    "exhaust": "Oil on an exhaust burns. Nothing runs near it without a sleeve and a clip.",
    "damper": "Nothing reaches the crank damper, the belt or the exhaust when the engine rocks.",
    "cabin": "In the cabin a bottle is mounted to hold in a crash, its line comes through a "
    "bulkhead fitting with a grommet, and its lever is clear of the gear lever.",
    "crash": "A tank or a line belongs where neither a wheel nor a wall reaches it in a crash.",
    "cast_rail": "Cast rail: click once and stop. A second pull strips the thread.",
    "left_hand": "Left-hand thread: it undoes clockwise. Thread locker and lock wire, both.",
    "taper": "Tape on a taper thread: 1 1/2 to 2 turns, beginning one thread back. Never on a "
    "flare; a nicked flare seat leaks for ever.",
    "bead": "The bead lies inside the bolt holes. What squeezes out inside breaks off and blocks "
    "the pickup's screen: a thin one.",
    "track": "Oil on a track is a danger to others: stop at the first sign.",
    "estimate": "Times are guesses until the workshop typed its own. The maker's torque decides.",
}
"""Words of a caution by its key."""
