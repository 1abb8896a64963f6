"""Oil in, pressure proved, first start, and what is written down."""

from __future__ import annotations

from bilge_core.job.step import Step

RUNNING = (
    Step("refill", "Fill: {part}", "fill", "refill", 0.15, after=("@close", "@fit"),
         why="To the mark, not over; the rest after it has run.", tools="measuring jug, clean"),
    Step("top_up", "Pour in {part}, dip", "fill", "top_up", 0.3, after=("@close", "@fit"),
         why="A measured trial: crank clear of it, windage watched."),
    Step("let_out", "Let out {part}, dip", "fill", "let_out", 0.3, after=("@close", "@fit"),
         why="Down to the mark.", cautions=("hot_oil", "waste")),
    Step("mark_stick", "Pour a litre at a time, dip, mark the stick", "fill", "mark_stick", 0.4,
         after=("refill",), why="The old marks are of the old pan; pours go to Pan.",
         tools="jug, straight rod, scriber"),
    Step("prime", "Prime: pump turned without firing until oil is at the far end", "fill",
         "refill", 0.1, after=("refill", "mark_stick", "top_up", "let_out"),
         why="A dry pump may not draw by itself."),
    Step("find_level", "Find the level of {part} with the engine turning", "run", "fit_tank", 0.5,
         after=("first_start",), why="A tank is dipped running, and filled to that."),
    Step("prime_turbo", "Prime {part} through its feed", "fill", "fit_in_line", 0.1,
         after=("prime",), why="Its bearings turn before the pump has reached them."),
    Step("prove_pressure", "Prove pressure before it fires", "fill", "refill", 0.1,
         after=("prime", "prime_turbo"), is_gate=True, photo=True,
         tools="gauge that is known to read, plugs out",
         why="Drive the pump, see oil at the far end, read the gauge; then start."),
    Step("first_start", "First start: pressure within seconds, or stop", "run", "run_up", 0.1,
         after=("prove_pressure", "@fill"), cautions=("exhaust",),
         why="Eyes on the gauge, a hand on the switch."),
    Step("set_regulator", "Set {part} warm, at idle and at speed", "run", "fit_regulator", 0.35,
         after=("first_start",), why="Cold oil reads high."),
    Step("leak_check", "Warm: look at every joint with a lamp, dip again", "run", "run_up", 0.2,
         after=("first_start",), cautions=("hot_oil", "exhaust"), photo=True,
         why="Drips show warm; the level falls by what lines and filter took.", tools="lamp, rag"),
    Step("retorque", "Cold again: pan bolts once round more", "run", "run_up", 0.1, wait=2.0,
         after=("leak_check",), why="A gasket settles; a bead does not, and is only looked at."),
    Step("shut_valve", "Practise it: valve shut while pressure is high, then stop", "run",
         "fit_accumulator", 0.3, after=("leak_check",), is_gate=True,
         cautions=("valve", "pressure_vessel"),
         why="Left open it empties into the sump as the engine runs down."),
    Step("write_down", "Write down levels, gauge, what was found", "run", "run_up", 0.2,
         after=("@run",), cautions=("track", "local_rules"),
         why="The next forecast is better by it."),
)  # fmt: skip
"""Steps after everything is closed."""
