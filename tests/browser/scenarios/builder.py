"""A builder at the screen: what they do from an empty account on, by the words that they see."""

from __future__ import annotations

import re
from collections.abc import Mapping
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.conftest import A_RUN, Page
from tests.browser.labels import faults

Answers = Mapping[str, str | bool]


def _choose(menu: WebElement, words: str) -> None:
    menu.find_element(By.XPATH, f'.//option[normalize-space(.)="{words}"]').click()


class Builder:
    """Someone signed in, with one car at a time before them."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.car = 0

    def new_car(self, name: str, layout: str) -> None:
        """A build from the layout nearest to the car."""
        self.page.goto("/")
        self.page.until(lambda: self.page.driver.find_element(By.NAME, "template"))
        self.page.field("Name of the car or build").send_keys(name)
        self._centred(f"//label[contains(normalize-space(.), '{layout}')]").click()
        self.page.click("button", "Make the build")
        self.page.until(lambda: "/builds/" in self.page.driver.current_url)
        found = re.search(r"/builds/(\d+)/", self.page.driver.current_url)
        assert found
        self.car = int(found.group(1))
        self.page.says("The car, and the engine in it")

    def open(self, stage: str) -> None:
        """A stage of the car: along the rail from another stage, else loaded anew."""
        path = f"/builds/{self.car}/{stage}"
        at = self.page.driver.current_url
        if f"/builds/{self.car}/" in at and not at.endswith(path):
            self.page.go(path)
        else:
            self.page.goto(path)
        self.page.find("main")

    def tab(self, words: str) -> None:
        """A page of the inspector, or of the screen."""
        self._centred(f"//*[@role='tab' or self::button][normalize-space(.)='{words}']").click()

    def _centred(self, xpath: str) -> WebElement:
        def attempt() -> WebElement:
            each = self.page.seen(xpath)[0]
            self.page.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", each)
            return each

        found: WebElement = self.page.until(attempt)
        return found

    def press(self, words: str, within: str = "") -> None:
        """The button that is seen, can be pressed and has these words in it."""

        def attempt() -> bool:
            button = self._centred(f'{within}//button[contains(normalize-space(.), "{words}")]')
            assert button.is_enabled()
            button.click()
            return True

        self.page.until(attempt)

    def unfold(self, words: str) -> None:
        """Open what is folded away under these words."""
        path = f'//details[summary[contains(normalize-space(.), "{words}")]]'
        fold = self.page.until(lambda: self.page.driver.find_element(By.XPATH, path))
        if fold.get_attribute("open") is None:
            self._centred(f"{path}/summary").click()

    def figure(self, label: str, text: str) -> None:
        """Type over a figure in place, and see it kept as a new state."""
        before = self.state()
        field = self.page.field(label)
        self.page.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text, Keys.ENTER)
        self.page.until(lambda: self.state() > before)

    def holds_to_the_rail(self) -> float:
        """What Pan says that it holds, all told."""
        path = r"([\d.]+) (?:L|qt) to the rail"
        self.page.until(lambda: re.search(path, self.page.text()))
        found = re.search(path, self.page.text())
        assert found
        return float(found.group(1))

    def state(self) -> int:
        found = re.search(r"State (\d+)", self.page.text())
        return int(found.group(1)) if found else 0

    def answer(self, answers: Answers, within: str = "") -> None:
        """Fill a form in by its labels: words, a choice, or a box that is ticked."""
        for label, value in answers.items():
            path = (
                f'{within}//label[contains(normalize-space(.), "{label}")]'
                "//*[self::input or self::select]"
                f'|{within}//*[self::input or self::select][starts-with(@aria-label, "{label}")]'
                f'|{within}//*[@id=//label[contains(normalize-space(.), "{label}")]/@for]'
            )
            each = self._centred(path)
            if isinstance(value, bool):
                if each.is_selected() != value:
                    each.click()
            elif each.tag_name == "select":
                _choose(each, value)
            else:
                each.send_keys(Keys.CONTROL, "a")
                each.send_keys(value, Keys.TAB)

    def answer_in_turn(self, form: str, *texts: str) -> None:
        """Fill the fields of a form one after the other."""
        path = f"//form[@aria-label='{form}']//input"

        self.page.until(lambda: len(self.page.seen(path)) == len(texts))
        for each, text in zip(self.page.seen(path), texts, strict=True):
            each.send_keys(Keys.CONTROL, "a")
            each.send_keys(text)

    def pick(self, within: str, words: str) -> None:
        """Choose from the menu that is seen inside something."""
        _choose(self._centred(f"{within}//select"), words)

    def say_a_load(self, answers: Answers) -> None:
        """Without a logger the load is said, and judges the build."""
        self.open("loads")
        self.page.click("button", "No logger? Say the load")
        self.page.says("Braking is often the highest g")
        self.answer(answers)
        self.page.click("button", "Judge by this load")
        self.page.says("See where the oil goes")
        self.page.until(lambda: "No lap yet" not in self.page.verdict())

    def over_the_whole_lap(self, log: Path) -> None:
        """The car as it is now over a whole lap from a logger, and what moving oil makes of it."""
        self.open("loads")
        self.page.click("button", "Import a log")
        self.page.give(log, "Logger file")
        self.page.says("This lap turns")
        self.page.click("button", "Keep it and judge by this lap")
        self.page.says("See where the oil goes")
        for stage in ("slosh", "pressure", "drains"):
            self.open(stage)
            self.page.until(lambda: "gallery" in self.page.text(), 2 * A_RUN)
            self.page.until(lambda: "Reading" not in self.page.find("main").text)
            self.looks_sound()

    def fit(
        self, words: str, answers: Answers | None = None, title: str = "Fit or change something"
    ) -> None:
        """Fit something to circuit or pan, on the stage or page that offers it."""
        before = self.state()
        self.unfold(title)
        form = f'//form[@aria-label="{words}"]'
        if not self.page.driver.find_elements(By.XPATH, form):
            self.press(words)
        self.answer(answers or {}, form)
        self.press("Fit it", form)
        self.page.until(lambda: self.state() > before)

    def car_is_in(self, state: int, said: str = "done") -> None:
        """Say on Job card which state the car is in."""
        self.open("job-card")
        self.page.says("Which state is the car in?")
        path = f"//li[contains(normalize-space(.), 'State {state}:')]//button"
        self._centred(path).click()
        self.page.says(said)

    def pick_part(self, part: str, verb: str) -> None:
        """Have a part renewed or looked over on the same job."""
        self.answer({"A part to renew or to look at": part})
        self.press(verb)
        words = {"Renew": "renew", "Look over": "look over"}[verb]
        self.page.says(f"{words}: {part}")

    def in_the_way(self, kind: str, name: str, off: str, back: str) -> None:
        """Say what hides the pan, and how many minutes it takes off and back on."""
        inside = "//section[@aria-label='In the way']"
        self.answer({"kind": kind, "called": name, "min off": off, "min back": back}, inside)
        self.press("Is in the way", inside)
        self.page.says(f"Out of the way: {name}")

    def steps(self) -> list[str]:
        """Keys of the steps on the card, in order, each once."""
        every = (
            "return [...document.querySelectorAll('[data-step]')].map((each) => each.dataset.step)"
        )
        shown = self.page.until(lambda: self.page.driver.execute_script(every))
        return list(dict.fromkeys(str(each).split(":")[0] for each in shown))

    def has_steps(self, *keys: str) -> None:
        self.page.until(lambda: set(keys) <= set(self.steps()))

    def in_order(self, *keys: str) -> None:
        """These steps are on the card, one after the other."""
        self.has_steps(*keys)
        steps = self.steps()
        assert [each for each in steps if each in keys] == list(keys), steps

    def verdict_says(self, words: str, seconds: float = A_RUN) -> None:
        self.page.until(lambda: words in self.page.verdict(), seconds)

    def looks_sound(self) -> None:
        """Nothing that axe finds serious, no label over another or off its sheet."""
        assert self.page.serious_faults() == []
        assert faults(self.page) == []

    def on_the_phone(self) -> None:
        """The same screen held in one hand: it fits, and is as sound."""
        self.page.size(390, 844)
        assert self.page.fits(390)
        self.looks_sound()
        self.page.size(1280, 800)
