"""Answers that are worked out once: the same for all that is felt, and anew for anything else."""

from __future__ import annotations

import pytest
from bilge_core.document.build import Build
from bilge_core.document.remembered import all_but_its_name, remembered
from bilge_core.errors import InvalidInput
from bilge_core.options.remedies import remedies
from bilge_core.pan import assemble_pan


def filled(build: Build, litres: float) -> Build:
    return build.model_copy(
        update={"oil": build.oil.model_copy(update={"volume_l": build.oil.volume_l + litres})}
    )


def named(build: Build, name: str) -> Build:
    return build.model_copy(update={"name": name})


class Worked:
    """A function of a build that counts how often it is worked out."""

    def __init__(self, most: int) -> None:
        self.times = 0
        self.ask = remembered(all_but_its_name, most)(self.work_out)

    def work_out(self, build: Build, more: float = 0.0) -> float:
        self.times += 1
        if build.oil.volume_l + more > 20.0:
            raise InvalidInput([])
        return build.oil.volume_l + more


def test_it_is_worked_out_again_for_what_is_felt_alone(dunlin: Build) -> None:
    worked = Worked(4)
    first = worked.ask(dunlin)
    assert worked.ask(named(dunlin, "Heron")) == first and worked.times == 1
    assert worked.ask(filled(dunlin, 0.5)) == first + 0.5 and worked.times == 2
    assert worked.ask(dunlin, 1.0) == worked.ask(dunlin, more=1.0) == first + 1.0
    assert worked.ask(dunlin) == first and worked.times == 4  # a word by name is another key


def test_the_longest_unasked_goes_first(dunlin: Build) -> None:
    worked = Worked(2)
    for litres in (0.0, 0.1, 0.0, 0.2, 0.0):  # 0.1 goes for 0.2
        worked.ask(filled(dunlin, litres))
    assert worked.times == 3
    worked.ask(filled(dunlin, 0.1))
    assert worked.times == 4


def test_what_is_raised_is_not_kept(dunlin: Build) -> None:
    worked = Worked(4)
    for _ in range(2):
        with pytest.raises(InvalidInput):
            worked.ask(dunlin, 99.0)
    assert worked.times == 2


def test_a_pan_is_assembled_anew_for_other_oil_and_not_for_another_name(dunlin: Build) -> None:
    pan = assemble_pan(dunlin)
    assert assemble_pan(named(dunlin, "Heron")) is pan
    more = assemble_pan(filled(dunlin, 0.5))
    assert more is not pan and more.oil_volume > pan.oil_volume


def test_remedies_carry_the_name_of_their_build(dunlin: Build) -> None:
    """All of a build is in a remedy's own, its name and notes too."""
    found = remedies(named(dunlin, "Heron"))
    assert {each.build.name for each in found if each.build} == {"Heron"}
    assert remedies(named(dunlin, "Heron")) is found
    assert {each.build.name for each in remedies(dunlin) if each.build} == {dunlin.name}
