"""A log of 100 MB from file to laps: time by pytest-benchmark, memory in a process of its own."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.loads.laps import find_laps
from bilge_core.loads.log import prepare
from bilge_core.loads.recording import read_recording
from bilge_core.loads.sniff import open_log

MEGABYTES = 100
_MOST_MEMORY = 1024  # [MB] what it must stay below

HEADINGS = (
    "time [s],speed [km/h],lateral g [g + left],longitudinal g [g + forward],rpm,vertical g [g],"
    + ",".join(f"channel {i}" for i in range(12))
)


@pytest.fixture(scope="module")
def long_log(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """100 MB of 18 channels at 100 Hz: near two hours of laps that come round every 80 s."""
    path = tmp_path_factory.mktemp("import") / "long.csv"
    rest = "1.00," + ",".join(f"{i + 0.125:.3f}" for i in range(12))
    with path.open("w") as file:
        file.write(HEADINGS + "\n")
        number = 0
        while file.tell() < MEGABYTES * 1_000_000:
            time = (number + np.arange(10_000)) / 100.0
            side = 1.2 * np.sin(time * 2 * np.pi / 80.0) ** 3 + 0.3
            rows = [
                f"{t:.2f},{130 + 20 * s:.1f},{s:.3f},{-0.2 * s:.3f},{5000 + 900 * s:.0f},{rest}"
                for t, s in zip(time.tolist(), side.tolist(), strict=True)
            ]
            file.write("\n".join(rows) + "\n")
            number += 10_000
    return path


def read_whole(path: Path) -> int:
    """From the file to laps; how many samples."""
    file = open_log(path)
    log = prepare(read_recording(file, file.proposal).log)
    find_laps(log)
    return len(log.time)


def test_import_of_100_mb(benchmark: Any, long_log: Path) -> None:
    count = benchmark.pedantic(read_whole, args=(long_log,), rounds=2, warmup_rounds=0)
    assert count > 700_000


def test_memory_of_importing_100_mb(long_log: Path) -> None:
    # of the process's own memory: `ru_maxrss` would count what its parent had when it forked
    words = (
        "import sys; from pathlib import Path; "
        "from tests.bench.test_import import read_whole; read_whole(Path(sys.argv[1])); "
        "print(int(Path('/proc/self/status').read_text().split('VmHWM:')[1].split()[0]) // 1024)"
    )
    done = subprocess.run(
        [sys.executable, "-c", words, str(long_log)], capture_output=True, text=True, check=True
    )
    print(f"peak memory {done.stdout.strip()} MB")
    assert int(done.stdout) < _MOST_MEMORY
