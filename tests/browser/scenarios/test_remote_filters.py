"""A remote filter, one or two: ports, plugs, tape, spanners, capacity regained."""

from __future__ import annotations

import pytest

from tests.browser.scenarios.builder import Builder

pytestmark = pytest.mark.django_db(transaction=True)


def test_two_filters_on_a_base_with_their_ports_and_spanners(builder: Builder) -> None:
    page = builder.page
    builder.new_car("Phalarope", "Vee engine along the car")
    builder.figure("Nose higher than tail", "4")
    as_it_is = builder.state()
    builder.open("pressure")
    builder.tab("Supply")
    builder.fit(
        "Move the filter",
        {"Filters on the base": "two", "Line's size": "12", "Holds with its lines": "1.4 L"},
    )
    page.says("two filters on a remote base, lines of size 12")
    builder.open("car")
    poured = page.field("In the engine, as poured")
    page.until(lambda: 8.0 < float(poured.get_attribute("value") or 0) < 8.5)  # theirs besides

    builder.open("lines")
    for line in ("to the remote filter", "from the remote filter"):
        builder.press(line)
        builder.press("Lay it")
        page.says("Ahead of the rail's rear face, to the left, over the rail")
    builder.tab("Order")
    for part in (
        "remote filter base",
        "plug for a port",
        "adaptor, taper 1/2 to flare size 12",
        "Spanners: ",
    ):
        page.says(part)
    builder.looks_sound()
    builder.on_the_phone()

    builder.car_is_in(as_it_is)
    builder.has_steps("drill_cover", "fit_filter", "cut_line", "wash_line", "top_up")
    builder.in_order(
        "mount_filter", "plug_ports", "lay_line", "prime", "prove_pressure", "leak_check"
    )
    builder.press("Plug the ports of remote filter")
    page.says("beginning one thread back")
    builder.on_the_phone()
