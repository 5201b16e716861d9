"""A real browser against a real server: gunicorn in a process of its own, the demo in a database of its own."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from typing import Any

import pytest
import requests
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright
from playwright.sync_api import Error as PlaywrightError

from bench.fresh import client
from bench.server import free_port
from server.tests.databases import ROOT, new_database

#: Not how fast it has to be (bin/bench shows that), but when a slow machine has surely lost it.
expect.set_options(timeout=20_000)
#: Debian's Chromium without a frame around its pages: drawing that frame took a fifth of the tests' time.
CHROMIUM = "/usr/bin/chromium-headless-shell"


class Server:
    """The application's server, which a test may stop and start again; what works on its jobs goes on meanwhile.

    Args:
        database: its name.
        jobs: whether there is somebody to work on them.
        environment: more of it.
    """

    def __init__(self, database: str, jobs: bool = True, **environment: str) -> None:
        self.jobs = jobs
        self.port = free_port()
        self.environment = {**os.environ, "NAILWRIGHT_DB_NAME": database, "NAILWRIGHT_THREADS": "8", **environment}
        self.process: subprocess.Popen[bytes] | None = None
        self.worker: subprocess.Popen[bytes] | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        if self.process:
            return
        command = [sys.executable, "-m", "gunicorn", "nailwright.config.wsgi", "--bind", f"127.0.0.1:{self.port}",
                   "-k", "gthread", "-w", "1", "--threads", "8", "--keep-alive", "75", "--log-level", "warning"]  # fmt: skip
        self.process = subprocess.Popen(command, env=self.environment, cwd=ROOT)
        if self.jobs and not self.worker:
            work = [sys.executable, "server/manage.py", "db_worker", "--interval", "1", "--no-startup-delay", "--no-reload",
                    "--verbosity", "0"]  # fmt: skip
            self.worker = subprocess.Popen(work, env=self.environment, cwd=ROOT)
        for _ in range(300):
            if self.process.poll() is not None:
                raise RuntimeError(f"The server ended at once with {self.process.returncode}.")
            try:
                # its door is open before it has read all that it needs: what counts is its first answer
                requests.get(f"{self.address}/api/v1/session", timeout=60).raise_for_status()
                return
            except requests.RequestException:
                time.sleep(0.1)
        raise RuntimeError("The server gave no answer in time.")

    def stop(self) -> None:
        if self.process:
            self.process.send_signal(signal.SIGTERM)
            self.process.wait(20)
            self.process = None

    def end(self) -> None:
        self.stop()
        if self.worker:
            self.worker.send_signal(signal.SIGTERM)
            self.worker.wait(60)
            self.worker = None


@pytest.fixture(scope="session")
def demo_database() -> str:
    """Fresh demo data."""
    return new_database("browser", "migrate", "load_demo")


@pytest.fixture(scope="session")
def running_server(demo_database: str) -> Iterator[Server]:
    server = Server(demo_database)
    server.start()
    yield server
    server.end()


@pytest.fixture
def server(running_server: Server) -> Server:
    running_server.start()
    return running_server


#: The pages live on the evening of the tests as well (tests/clock).
ON_THE_EVENING = f"""(() => {{
  const shift = {float(os.environ.get("NAILWRIGHT_TEST_SHIFT_S", "0")) * 1000};
  globalThis.Date = new Proxy(Date, {{
    construct: (real, given, made) => Reflect.construct(real, given.length ? given : [real.now() + shift], made),
    apply: (real) => new real(real.now() + shift).toString(),
    get: (real, name) => (name === "now" ? () => real.now() + shift : real[name]),
  }});
}})();"""


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM)
        plain = browser.new_context

        def new_context(**given: Any) -> BrowserContext:
            context = plain(**given)
            context.add_init_script(ON_THE_EVENING)
            return context

        browser.new_context = new_context  # type: ignore[method-assign]
        yield browser
        browser.close()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[Any]:
    """What somebody would have seen as a test failed: some failures come once in a hundred runs."""
    report = yield
    context = getattr(item, "funcargs", {}).get("context")
    if report.failed and context:
        for page in context.pages:
            with suppress(PlaywrightError):  # a page that was closed meanwhile shows nothing
                report.sections.append((f"Page {page.url}", page.locator("body").aria_snapshot(timeout=2000)))
    return report


@pytest.fixture
def context(chromium: Browser, server: Server, request: pytest.FixtureRequest) -> Iterator[BrowserContext]:
    """A fresh tablet: nothing stored, nobody signed in. The application is installed on it where the test is marked so: that fetches
    a hundred files, for each test anew."""
    installed = request.node.get_closest_marker("installed") is not None
    context = chromium.new_context(
        base_url=server.address, viewport={"width": 1280, "height": 800}, accept_downloads=True,
        service_workers="allow" if installed else "block",
    )  # fmt: skip
    errors: list[str] = []
    context.on("weberror", lambda error: errors.append(str(error.error)))
    yield context
    context.close()
    assert not errors, f"The page raised errors: {errors}"


@pytest.fixture
def sign_in(context: BrowserContext) -> Callable[..., Page]:
    """Opens a page as one of the demo's people, who is signed in already: the sign-in page has tests of its own."""

    def open_as(role: str = "crew", path: str = "/") -> Page:
        people = context.request.get("/api/v1/session").json()["demo_people"]
        who = next(each["username"] for each in people if each["role"] == role)
        assert context.request.post("/api/v1/session/demo", data={"username": who}).ok
        page = context.new_page()
        page.goto(path)
        # on a deck the other pages stand under Menu
        pages = page.get_by_role("navigation", name="Stages of the work").or_(page.get_by_role("button", name="Menu"))
        expect(pages.first).to_be_visible()
        return page

    return open_as


@pytest.fixture(scope="session")
def tonight(demo_database: str) -> str:
    """Key of the demo's open outing."""
    found = client(
        "mariadb",
        "-N",
        "-e",
        f"SELECT id FROM {demo_database}.deck_outing WHERE state = 'open' ORDER BY date DESC LIMIT 1",
    )
    return found.decode().strip()


@pytest.fixture
def deck(sign_in: Callable[..., Page], tonight: str) -> Page:
    """Tonight's outing with a run going, as the crew sees it."""
    page = sign_in("crew", f"/deck/{tonight}")
    expect(page.get_by_role("region", name="Call line")).to_be_visible()
    if page.get_by_text("No run in progress.").first.is_visible():  # a test before this one ended it
        page.keyboard.press("F8")
        page.get_by_role("dialog").get_by_role("button", name="Start run").click()
        expect(page.get_by_role("dialog")).not_to_be_visible()
    return page
