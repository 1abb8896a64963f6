"""A real browser on the real server: Debian's Chromium, headless, at a true 1280 x 800."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from accounts.services import open_account
from builds.models import Build
from builds.states import add_build, checked_document
from django.core.cache import caches
from django.core.signals import request_finished, request_started
from django.db import connections
from django.middleware.gzip import GZipMiddleware
from loads.models import Lap
from loads.services import store_lap
from runs.models import Run
from runs.tasks import carry_out
from selenium import webdriver
from selenium.common.exceptions import TimeoutException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait
from studies import tasks as studying
from studies.models import Study

from tests.browser.asked import SHOWN
from tests.conftest import DEMO, ROOT
from tests.emptied import no_permissions_anew  # noqa: F401

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--force-prefers-reduced-motion",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    # pages are painted by the processor, as on any machine without a graphics card; else this
    # browser would emulate a card for that too, at a fifth of the speed
    "--disable-gpu-rasterization",
    "--disable-gpu-compositing",
)


A_RUN = 240.0
"""[s] that a run may take where all else is busy besides: only what fails waits it out."""


A_MOMENT = 3.0
"""In which most of what is waited for comes [s]."""

PATIENCE = 90.0
"""As long as anything else is waited for [s]: a page takes a second on a free machine, and a
hundred times that was seen on one whose cores others had."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if "tests/browser" in str(item.path):
            item.add_marker(pytest.mark.browser)


class Page:
    """What a user does and sees."""

    def __init__(self, driver: webdriver.Chrome, address: str) -> None:
        self.driver = driver
        self.address = address
        self.meant: tuple[str, ...] = ()
        """Words of faults in the browser's log that a test brings about."""

    def size(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 500}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def fits(self, width: int) -> bool:
        """Whether the page, once it is laid out anew, needs no more than a width."""
        wide = "return document.documentElement.scrollWidth"
        return bool(self.until(lambda: self.driver.execute_script(wide) <= width))

    def until(self, condition: Callable[[], Any], seconds: float = PATIENCE) -> Any:
        """Wait until this is so: asked often at first, and seldom of what takes long."""
        ignored = (AssertionError, Exception)
        often = min(seconds, A_MOMENT)
        try:
            return WebDriverWait(self.driver, often, 0.1, ignored).until(lambda _: condition())
        except TimeoutException:
            if seconds <= often:
                raise
        left = seconds - often  # each question stops the page that works on the answer
        return WebDriverWait(self.driver, left, 0.5, ignored).until(lambda _: condition())

    def find(self, css: str) -> WebElement:
        return self.until(lambda: self.driver.find_element(By.CSS_SELECTOR, css))  # type: ignore[no-any-return]

    def by_words(self, tag: str, words: str) -> WebElement:
        """An element that shows these words, or is labelled with them."""
        path = (
            f"//{tag}[normalize-space(.)='{words}' or @aria-label='{words}']"
            f"|//{tag}[.//*[normalize-space(text())='{words}']]"
        )
        return self.until(lambda: self.seen(path)[0])  # type: ignore[no-any-return]

    def seen(self, path: str) -> list[WebElement]:
        """Elements at an xpath that are on the page to be seen."""
        return list(self.driver.execute_script(SHOWN, path))

    def field(self, label: str) -> WebElement:
        """The input that a label belongs to."""
        return self.until(  # type: ignore[no-any-return]
            lambda: self.driver.find_element(
                By.XPATH,
                f"//input[@id=//label[normalize-space(.)='{label}']/@for]"
                f"|//label[contains(normalize-space(.), '{label}')]//input[not(@type='radio')]"
                f"|//input[@aria-label='{label}']",
            )
        )

    def click(self, tag: str, words: str) -> None:
        def attempt() -> bool:
            element = self.by_words(tag, words)
            centred = "arguments[0].scrollIntoView({block: 'center'})"
            self.driver.execute_script(centred, element)
            assert element.is_enabled()  # a button that is still grey takes no click
            element.click()
            return True

        self.until(attempt)  # again, should the page have drawn itself anew in between

    def touch(self, element: WebElement, aside: tuple[float, float] = (0.0, 0.0)) -> None:
        """A finger that comes down near an element's middle, and up again."""
        script = (
            "arguments[0].scrollIntoView({block: 'center'});"
            "const box = arguments[0].getBoundingClientRect();"
            "return [box.left + box.width / 2, box.top + box.height / 2]"
        )
        x, y = self.driver.execute_script(script, element)
        at = {"x": x + aside[0], "y": y + aside[1]}
        enabled = {"enabled": True, "maxTouchPoints": 1}
        self.driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", enabled)
        for kind, points in (("touchStart", [at]), ("touchEnd", [])):
            event = {"type": kind, "touchPoints": points}
            self.driver.execute_cdp_cmd("Input.dispatchTouchEvent", event)
        self.driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": False})

    def choose(self, menu: str, item: str) -> None:
        """Open a menu, by its button's selector, and take an item of it, by its xpath."""

        def attempt() -> bool:
            if not self.driver.find_elements(By.CSS_SELECTOR, "[role=menu]"):
                self.driver.find_element(By.CSS_SELECTOR, menu).send_keys(Keys.ENTER)
            self.driver.find_element(By.XPATH, item).click()
            return True

        self.until(attempt)

    def says(self, words: str) -> None:
        """Wait until the page shows these words."""
        try:
            self.until(lambda: words in self.text())
        except TimeoutException:
            pytest.fail(f"the page does not say {words!r}; it says:\n{self.text()}")

    def text(self) -> str:
        """All that the page shows, as text.

        By the page's own hand: WebDriver's way takes it fifty times as long, and the page stands
        still meanwhile.
        """
        shown = str(self.driver.execute_script("return document.body.innerText"))
        return shown.replace("\u00a0", " ").replace("\t", " ")

    def type_into(self, label: str, text: str) -> None:
        """Type over a figure and accept it."""

        def attempt() -> bool:
            field = self.field(label)
            field.send_keys(Keys.CONTROL, "a")
            field.send_keys(text, Keys.ENTER)
            return True

        self.until(attempt)

    def give(self, file: Path, label: str) -> None:
        """Choose a file for the field of this label, which another page has none of."""

        def attempt() -> bool:
            field = self.driver.find_element(By.CSS_SELECTOR, f"input[aria-label='{label}']")
            field.send_keys(str(file))
            return True

        self.until(attempt)  # again, should the page have drawn itself anew in between

    def send_what_waits(self) -> None:
        """What was entered is sent, by the button or by itself should that be faster."""

        def attempt() -> bool:
            button = "//button[normalize-space(.)='Try now']"
            for each in self.driver.find_elements(By.XPATH, button):
                each.click()
            return "not sent yet" not in self.text()

        self.until(attempt)

    def goto(self, path: str) -> None:
        """Open a page of the app."""
        self.driver.get(f"{self.address}{path}")

    def go(self, path: str) -> None:
        """Go to another stage of the build shown as the rail does: the app is not loaded anew."""
        script = (
            "history.pushState(null, '', arguments[0]);dispatchEvent(new PopStateEvent('popstate'))"
        )
        self.driver.execute_script(script, path)
        # the rail and the screen change at once
        self.find(f"nav a[aria-current=page][href='{path}']")

    def press(self, *keys: str) -> None:
        """Press keys with nothing in focus but the page."""
        self.driver.execute_script("document.activeElement.blur()")
        self.driver.find_element(By.TAG_NAME, "body").send_keys(*keys)

    def sign_in(self, username: str, password: str) -> None:
        self.driver.get(self.address)
        self.find("input[name=username]").send_keys(username)
        self.find("input[name=password]").send_keys(password, Keys.ENTER)

    def verdict(self) -> str:
        cell = "[role=status][aria-label=Verdict][aria-busy=false]"
        return str(self.find(cell).text)

    def serious_faults(self) -> list[str]:
        """What axe-core finds that is serious or critical."""
        if not self.driver.execute_script("return 'axe' in window"):
            self.driver.execute_script(AXE.read_text())
        found = self.driver.execute_async_script(
            "const done = arguments[0];"
            "axe.run(document, {resultTypes: ['violations']}).then((r) => done(r.violations))"
        )
        return [
            f"{fault['id']}: {node['target']} {node.get('failureSummary', '')}"
            for fault in found
            if fault["impact"] in {"serious", "critical"}
            for node in fault["nodes"]
        ]


@pytest.fixture(scope="session")
def driver(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in FLAGS:
        options.add_argument(flag)
    options.add_argument(f"--user-data-dir={tmp_path_factory.mktemp('browser')}")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    service = webdriver.ChromeService(str(Path("/usr/bin/chromedriver")))
    browser = webdriver.Chrome(options=options, service=service)
    browser.set_script_timeout(PATIENCE)
    yield browser
    browser.quit()


@pytest.fixture(scope="session")
def under_way() -> Iterator[Callable[[], int]]:
    """Counts the requests that the server has begun to answer and not yet ended: through all
    tests, as what one test's page asked for may end in the next."""
    counted = [0]
    lock = threading.Lock()

    def add(by: int) -> Callable[..., None]:
        def change(**_: Any) -> None:
            with lock:
                counted[0] += by

        return change

    begun, ended = add(1), add(-1)
    request_started.connect(begun)
    request_finished.connect(ended)
    try:
        yield lambda: counted[0]
    finally:
        request_started.disconnect(begun)
        request_finished.disconnect(ended)


@pytest.fixture
def quick(live_server: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    """What a page of this machine needs no more of, and the server's own tests look at."""
    monkeypatch.setattr(
        GZipMiddleware, "process_response", lambda self, request, response: response
    )
    monkeypatch.setitem(connections.settings["default"], "CONN_HEALTH_CHECKS", False)
    monkeypatch.setattr("stages.pressure.answer._SIZES", 4)
    monkeypatch.setattr("stages.pressure.answer._CHARGES", 8)


@pytest.fixture
def page(
    driver: webdriver.Chrome, live_server: Any, settings: Any, tmp_path: Path, quick: None,
    under_way: Callable[[], int],
) -> Iterator[Page]:  # fmt: skip
    settings.UPLOADS = str(tmp_path / "uploads")
    caches["forecasts"].clear()  # kept for the rows of another test
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    driver.get("about:blank")  # the page of the test before would go on without its cookies
    driver.delete_all_cookies()
    # what one test chose, entered or kept must not be there in the next
    kinds = "local_storage,indexeddb,cache_storage,service_workers"
    wanted = {"origin": live_server.url, "storageTypes": kinds}
    driver.execute_cdp_cmd("Storage.clearDataForOrigin", wanted)
    found = Page(driver, live_server.url)
    found.size(1280, 800)
    driver.get_log("browser")
    yield found
    log = driver.get_log("browser")
    driver.get("about:blank")
    found.until(lambda: under_way() == 0)  # what is still answered would meet the tables' emptying
    refused = [
        entry["message"]
        for entry in log
        if entry["level"] == "SEVERE"
        and not any(words in entry["message"] for words in (*EXPECTED, *found.meant))
    ]
    assert refused == []  # no script error, nothing blocked by the content security policy


EXPECTED = ("401 (Unauthorized)", "422 (Unprocessable", "409 (Conflict)", "429 (Too Many")


def _work(until: threading.Event, wanted: str) -> None:
    """A worker in a thread: carries out what waits in cells of a size, and studies behind it."""
    try:
        while not until.wait(0.2):
            run = Run.objects.filter(status=Run.WAITING, cells=wanted).first()
            if run is not None:
                carry_out.call(run.pk)
                continue
            alive = Study.objects.filter(status__in=(Study.WAITING, Study.RUNNING)).first()
            while alive is not None and not until.is_set() and studying.one_step(alive):
                alive = studying.under_way(alive.pk)
    finally:
        connections.close_all()


@pytest.fixture
def worker(live_server: Any) -> Any:
    ended = threading.Event()
    thread = threading.Thread(target=_work, args=(ended, "quick"))
    thread.start()
    yield
    ended.set()
    thread.join()


@pytest.fixture
def ada(transactional_db: None) -> User:
    return open_account("ada", "bearing-shell-9", "Reed Lane Garage")


@pytest.fixture
def laps(ada: User) -> tuple[Lap, Lap]:
    rain, dry = (
        store_lap(ada, name, DEMO / file, file)
        for name, file in (("rain", "saltmarsh-rain.csv"), ("lap 7", "saltmarsh.csv"))
    )
    return dry, rain


@pytest.fixture
def build(ada: User, laps: tuple[Lap, Lap]) -> Build:
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(ada, document, "from a file", laps[0])


@pytest.fixture
def slosh(page: Page, build: Build) -> Page:
    """Signed in, with the build open."""
    page.sign_in("ada", "bearing-shell-9")
    page.says("Not safe.")
    page.driver.get(f"{page.address}/builds/{build.pk}/slosh")
    page.find("[data-level-mm]")
    return page
