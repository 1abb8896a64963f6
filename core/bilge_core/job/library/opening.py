"""Getting at the pan, taking it off, and putting it back."""

from __future__ import annotations

from bilge_core.job.step import Step
from bilge_core.job.torque import PAN_BOLTS

OPENING = (
    Step(
        "stands", "Car on its stands: two independent supports, level", "before", "stand_up", 0.3,
        why="A car that is not level drains and dips wrongly, and one support is none.",
        cautions=("stands", "local_rules"), tools="rated stands, spirit level", is_gate=True,
    ),
    Step(
        "release_bottle", "Shut the valve of {part}, let its pressure off", "before",
        "release_bottle", 0.1, after=("stands",),
        why="It empties into whatever is opened first.",
        cautions=("pressure_vessel", "hot_oil"), is_gate=True,
    ),
    Step(
        "hold_engine", "Hold the engine from above", "before", "hold_engine", 0.5,
        after=("stands",), why="What carries it comes away.",
        cautions=("engine_hung", "stands", "chassis"), tools="rated beam or hoist", is_gate=True,
    ),
    Step(
        "drain", "Pull the plug, let it drain on a level car", "access", "drain", 0.1, wait=0.65,
        after=("stands", "release_bottle"), cautions=("hot_oil", "waste"),
        why="What is still in there runs over hands and sealing face.",
        tools="plug spanner, tray for all the oil",
    ),
    Step(
        "take_off", "Out of the way: {part}", "access", "access", 1.4,
        after=("stands", "hold_engine", "release_bottle"), photo=True,
        why="What is marked and photographed goes back where it was.",
    ),
    Step(
        "pan_off", "Pan off", "off", "pan_off_on", 0.4, after=("drain", "take_off"),
        why="Eased all round by hand: a screwdriver at one corner bends the rail.",
        cautions=("hot_oil",), tools="scraper, rubber mallet",
    ),
    Step(
        "clean_pan", "Clean pan, block face and bolt holes", "off", "pan_off_on", 0.4,
        after=("pan_off",), why="Old sealant under new leaks; dirt falsifies a torque.",
        cautions=("fire", "rotating"), tools="plastic scraper, solvent, lint-free rags",
    ),
    Step(
        "look_over", "Look for cracks at rail and bolt holes", "off", "pan_off_on", 0.25,
        after=("clean_pan",), why="Before anything is assembled; a crack found later costs it all.",
        tools="lamp, lens, straight edge", photo=True,
    ),
    Step(
        "look_at_tube", "Look over pickup tube, its brace and its screen", "off", "look_over", 0.2,
        after=("look_over",), cautions=("case_bolts",), photo=True, tools="lamp, lens",
        why="A tube held only at its bell flexes and cracks along the edge.",
    ),
    Step(
        "dry_fit", "Offer the pan up dry, turn the crank by hand", "close", "pan_off_on", 0.2,
        after=("@off", "@bench", "@wash", "@pickup"),
        why="What fouls is found before the bead is on.", tools="bar for the crank",
    ),
    Step(
        "seal_pan", "Seal the pan: {part}", "close", "pan_off_on", 0.15,
        after=("dry_fit", "turn_crank", "reach_bolts"), cautions=("bead",),
        why="Gasket or O-ring where the maker has one; else anaerobic on machined faces, silicone "
        "on pressed steel.",
        tools="dry faces, the maker's sealant",
    ),
    Step(
        "finger_tight", "All pan bolts finger tight", "close", "pan_off_on", 0.15, wait=1.0,
        after=("seal_pan",), makes=True,
        why="Until the bead just squeezes out; torqued at once it is all outside.",
    ),
    Step(
        "torque_pan", "Torque the pan bolts, crosswise", "close", "pan_off_on", 0.1,
        after=("finger_tight", "long_bolts"), torque=PAN_BOLTS,
        why="From the middle out, so that the rail lies flat on the bead.",
        cautions=("cast_rail", "estimate"), tools="torque wrench that reads so little",
    ),
    Step(
        "put_back", "Back on: {part}", "close", "access", 1.1,
        after=("torque_pan", "take_off.", "@fit"),
        why="In the reverse order, by the photos.",
    ),
)  # fmt: skip
"""Steps that come with getting at the pan, once a card."""
