"""What ten jobs take, written down from the trade's common practice before any library of steps.

Each line is a step's key, or a caution's with "!" before it, and the sentence of common practice
that asks for it (no published source). Lines of one group may come in any order, groups come one
after the other; cautions stand where they belong, the card may show them on any step. `*` stands
for the name of a part or of a thing that is in the way.
"""

from __future__ import annotations

Line = tuple[str, str]
Group = tuple[Line, ...]

_ORDER = (
    "dry fit, seal, bolt up finger tight, wait, torque in a cross pattern, refill, prime, check "
    "pressure before it fires, leak check"
)
_GET_ACCESS = (
    "get access (what must come off or be loosened first: pump, belt, dipstick tube, bumper, "
    "mounts, crossmember; this often takes longer than the job)"
)
_WASH = "cut, drill, weld and wash out every boss and line before anything is closed"
_PROVE = (
    "Prove pressure before first fire: drive the pump, see oil at the far end, prime the turbo, "
    "then start"
)
_GAP = "pickup mouth to pan floor: 1/4 to 3/8 in"
_STANDS = "Stand a car on stands rated for it, two independent supports, level"
_BRACE = (
    "A pickup tube held only at its bell flexes and cracks along the edge: brace it at the tube "
    "as well, inspect both"
)
_SEAL = (
    "The pickup joint is a suction joint: the right seal for this pump and tube, renewed, is "
    "checked before any remedy"
)
_THROUGH = (
    "sump off: drilled, deburred, washed, through-fitting with sealing washers or a welded boss, "
    "placed so that the pan bolts stay reachable"
)
_IN_PLACE = (
    "sump in place: pierced or drilled on the car, the nut passed in through the level-sensor "
    "hole, swarf wiped out by hand"
)
_HOSE = (
    "Hose must not reach the crank damper, the belt or the exhaust when it moves; a clip every so "
    "often; heat sleeve near an exhaust"
)
_MATCH = "Check that a drain flange and its gasket match the turbo's hole before closing"
_CABIN = (
    "A bottle or line in the cabin: mounted to hold in a crash, behind a bulkhead fitting with a "
    "grommet, its lever clear of the gear lever"
)
_NEW = (
    "New parts get the same look as old ones: a cracked new pan stops the job, goes back, and "
    "costs a week"
)
_OFFER = (
    "Mock up, offer it up, write down every place that touches and every gap, take it out, make "
    "room, do it again"
)
_SPACER = (
    "the pickup needs a spacer of the same thickness, the baffle comes up by the same, every bolt "
    "and stud is longer by the same"
)
_VESSEL = (
    "An accumulator is a pressure vessel: release the pressure before opening anything, never "
    "exceed its rating, keep its relief fitted"
)

BEGUN: tuple[Group, ...] = ((("stands", _STANDS),),)
OFF: tuple[Group, ...] = (
    (("drain", "full drain before the pan comes off: about 45 min on a level car"),
     ("take_off:*", _GET_ACCESS)),
    (("pan_off", "remove, clean, inspect"),),
    (("clean_pan", "remove, clean, inspect"),),
    (("look_over", "Look for cracks at the rail and the bolt holes before anything is assembled"),),
)  # fmt: skip
CLOSED: tuple[Group, ...] = (
    (("dry_fit", _ORDER),),
    (("seal_pan", _ORDER),),
    (("finger_tight", _ORDER),),
    (("torque_pan", _ORDER),),
)
RUN: tuple[Group, ...] = (
    (("refill", _ORDER),),
    (("prime", _ORDER),),
    (("prove_pressure", _PROVE),),
    (("first_start", _PROVE),),
    (("leak_check", _ORDER),),
    (("write_down", "Run it and write it down"),),
)

PICKUP_JOINT_AND_BRACE: tuple[Group, ...] = (
    *BEGUN, *OFF,
    (("look_at_tube", _BRACE),),
    (("renew_seal:*", _SEAL), ("brace_tube", _BRACE),
     ("!case_bolts", "Bolts beside the pickup may hold the case together: leave those that are "
      "not the pickup's")),
    *CLOSED, *RUN,
)  # fmt: skip

SPACER: tuple[Group, ...] = (
    *BEGUN, *OFF,
    (("fit_spacer", _SPACER), ("space_pickup", _SPACER), ("long_bolts", _SPACER),
     ("raise_baffle:*", _SPACER)),
    (("measure_gap", _GAP),),
    *CLOSED, *RUN,
)  # fmt: skip

GATES_INTO_A_CAST_PAN: tuple[Group, ...] = (
    *BEGUN, *OFF,
    (("trim_webs", "stiffening webs of gasket or casting that are in the way are trimmed as "
      "little as possible; a gate is shifted to keep a corner"),),
    (("fit_plate:*", "cast walls are rough, so fit each piece by hand"),),
    (("hang_gate:*", "gates swing toward the pickup only"),),
    (("try_gate:*", "a gate fitted backwards is worse than none"),),
    (("wash_pan", _WASH),),
    *CLOSED, *RUN,
)  # fmt: skip

CHASSIS_MEMBER_LOWERED: tuple[Group, ...] = (
    *BEGUN,
    (("hold_engine", "Lifting an engine: rated gear"),),
    *OFF,
    *CLOSED,
    (("put_back:*", _GET_ACCESS),
     ("!chassis", "Cutting a chassis member: only as a qualified fabricator and the class rules "
      "allow")),
    *RUN,
)  # fmt: skip

DRAIN_THROUGH_A_THIN_WALL_IN_PLACE: tuple[Group, ...] = (
    *BEGUN,
    (("drain", "drain on a level car"),),
    (("sensor_out:*", _IN_PLACE),),
    (("drill_in_place:*", _IN_PLACE),),
    (("pass_nut_in:*", _IN_PLACE),),
    (("swarf_out:*", "Drilling leaves swarf in the sump: catch and wipe it out, count it as a "
      "step that is signed off"),),
    (("sensor_back:*", "Reach for the nut through another opening (level sensor) if the pan "
      "stays on"),),
    (("match_flange:*", _MATCH), ("lay_line:*", _HOSE)),
    (("refill", _ORDER),),
    (("prime", _ORDER),),
    (("prime_turbo:*", _PROVE),),
    (("first_start", _PROVE),),
    (("leak_check", _ORDER),),
    (("write_down", "oil in the catch can, condition of gates and seals at the next strip"),
     ("!local_rules", "local codes and the organiser's rules decide, not this app")),
)  # fmt: skip

THROUGH_FITTING_WITH_THE_SUMP_OFF: tuple[Group, ...] = (
    *BEGUN, *OFF,
    (("drill_wall:*", _THROUGH),),
    (("deburr:*", _THROUGH),),
    (("through_fitting:*", _THROUGH),),
    (("wash_pan", _WASH),),
    (("dry_fit", _ORDER), ("reach_bolts:*", _THROUGH)),
    (("seal_pan", _ORDER),),
    (("finger_tight", _ORDER),),
    (("torque_pan", _ORDER),),
    *RUN,
)  # fmt: skip

BOTTLE_IN_THE_CABIN: tuple[Group, ...] = (
    *BEGUN,
    (("mount_bottle:*", _CABIN), ("through_bulkhead:*", _CABIN)),
    (("fit_valve:*", "manual ball valve in reach: simplest, cheapest"),
     ("lay_line:*", _HOSE), ("charge_bottle:*", _VESSEL)),
    (("lever_clear:*", _CABIN),),
    (("prime", _ORDER),),
    (("prove_pressure", _PROVE),),
    (("first_start", _PROVE),),
    (("leak_check", _ORDER),),
    (("shut_valve", "An accumulator's valve is shut while the pressure is still high: shut at "
      "idle it keeps nothing"), ("!pressure_vessel", _VESSEL)),
)  # fmt: skip

REMOTE_FILTER_AND_COOLER: tuple[Group, ...] = (
    *BEGUN,
    (("leak_test:*", "A welded or brazed cooler is leak-tested in water, outside and between the "
      "two circuits"),),
    (("mount_cooler:*", "Design the systems: remote filter and cooler"),
     ("mount_filter:*", "remote filter kit on a bare chassis: half an hour"),
     ("plug_ports:*", "a four-port filter base has its unused ports plugged")),
    (("wash_line:*", _WASH),),
    (("lay_line:*", _HOSE), ("!exhaust", "Oil on an exhaust: fire")),
    (("refill", _ORDER),),
    (("prime", _ORDER),),
    (("prove_pressure", _PROVE),),
    (("first_start", _PROVE),),
    (("leak_check", _ORDER),),
)  # fmt: skip

NEW_PAN_WITH_PICKUP_MOVED: tuple[Group, ...] = (
    *BEGUN,
    (("look_at_new", _NEW),),
    (("offer_up", _OFFER),),
    (("make_tube", "a new pan with the pickup moved"),),
    (("brace_tube", _BRACE), ("renew_seal:*", _SEAL)),
    (("measure_gap", _GAP),),
    *CLOSED, *RUN,
)  # fmt: skip

FRONT_SUMP_FOR_REAR: tuple[Group, ...] = (
    *BEGUN,
    (("drain", "drain on a level car"), ("take_off:*", _GET_ACCESS), ("look_at_new", _NEW)),
    (("pan_off", "remove, clean, inspect"),),
    (("offer_up", _OFFER), ("blank:*", "When a sump moves, the old dipstick hole is blocked")),
    (("make_tube", "a new pan with the pickup moved"),),
    (("renew_seal:*", _SEAL),),
    (("measure_gap", _GAP),),
    *CLOSED,
    (("refill", _ORDER),),
    (("mark_stick", "what volume of oil gives what level (pour it in a litre at a time and dip "
      "it), the dipstick marks"),),
    (("prove_pressure", _PROVE),),
    (("first_start", _PROVE),),
)  # fmt: skip
