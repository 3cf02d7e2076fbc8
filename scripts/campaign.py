"""What a hostile disk, a power button and a careless hand can do.

    ./check --campaign [FILES] [KILLS] [LINES] [SEED]

- FILES damaged designs (20 000 unless said): each opens, or is refused in one sentence within two seconds; one that
  opens is written and read back the same.
- KILLS (300): a process with two windows on one file, edited in turn and saved as they go, is killed at some moment.
  The file is then whole, and no edit that was acknowledged is lost: it is in the file or in a journal.
- LINES (500) of the command line out of real commands and rubbish: an exit code of 0, 1 or 2, one sentence on standard
  error for a 2, never a traceback.
- 200 tanks in the window: how long each edit and each page keeps the hand waiting; none longer than a second.

Prints what failed, and a table; exit 1 where anything did.
"""

from __future__ import annotations

import contextlib
import io
import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

from fuente.cli import commands, main
from fuente.demo import DEMOS
from fuente.document import files, journal
from fuente.document.system import set_value
from fuente.errors import ChangedElsewhere, FuenteError
from fuente.session import Session
from nasty import NAMES

LONGEST = 2.0  # s to open or refuse a file
HANGS = 1000.0  # ms that nothing may keep the window from answering
# Values of every kind that no field expects.
RUBBISH: tuple[Any, ...] = (
    None,
    True,
    -1,
    0,
    1e308,
    -1e308,
    1e-320,
    10**30,
    "",
    "x" * 5000,
    [],
    {},
    [[]],
    {"a": 1},
    "\u2028",
    "NaN",
    *NAMES,
)


def damaged(text: str, rng: random.Random) -> bytes:
    """A design's text as it may be after an accident, or after somebody meant ill."""
    raw = bytearray(text.encode())
    way = rng.randrange(7)
    at, to = sorted((rng.randrange(len(raw)), rng.randrange(len(raw))))
    if way == 0:
        del raw[at:]
    elif way == 1:
        del raw[at : min(to, at + 200)]
    elif way == 2:
        for _ in range(rng.randrange(1, 20)):
            raw[rng.randrange(len(raw))] = rng.randrange(256)
    elif way == 3:
        raw[at:at] = raw[at : min(to, at + 400)]
    elif way == 4:
        raw = bytearray(os.urandom(rng.randrange(4000)))
    else:
        data = json.loads(text)
        for _ in range(rng.randrange(1, 4)):
            _spoil(data, rng)
        raw = bytearray(json.dumps(data, ensure_ascii=rng.random() < 0.5).encode("utf-8", "surrogatepass"))
    return bytes(raw)


def _spoil(data: Any, rng: random.Random) -> None:
    """Somewhere in it another value, another key, or none."""
    while isinstance(data, dict | list) and data:
        key = rng.choice(list(data)) if isinstance(data, dict) else rng.randrange(len(data))
        if not isinstance(data[key], dict | list) or not data[key] or rng.random() < 0.15:
            if rng.random() < 0.2:
                del data[key]
            elif isinstance(data, dict) and rng.random() < 0.2:
                data[str(rng.choice(RUBBISH))[:40]] = data.pop(key)
            else:
                data[key] = rng.choice(RUBBISH)
            return
        data = data[key]


def try_files(count: int, rng: random.Random, bad: list[str]) -> dict[str, Any]:
    texts = [files.text_of(made()) for made in DEMOS.values()]
    opened, slowest = 0, 0.0
    for number in range(count):
        raw = damaged(rng.choice(texts), rng)
        began = time.process_time()
        try:
            system, record = files.parse_all(raw, "a.fuente")
        except FuenteError as error:
            said = str(error)
            if "\n" in said or len(said) > 600 or not said.endswith("."):
                bad.append(f"file {number}: said {said[:200]!r}")
        except Exception as error:
            bad.append(f"file {number}: {type(error).__name__}: {error}"[:300])
        else:
            opened += 1
            if files.parse_all(files.text_of(system, record).encode(), "b") != (system, record):
                bad.append(f"file {number}: reads back as another")
        slowest = max(slowest, time.process_time() - began)
    if slowest > LONGEST:
        bad.append(f"a file took {slowest:.1f} s")
    return {"files": count, "opened all the same": opened, "slowest, s": round(slowest, 2)}


class _Nobody:
    """A listener that hears nothing."""

    def __getattr__(self, name: str) -> Any:
        return lambda *_: None


def _two_windows(path: Path, said: int) -> None:
    """Two sessions on one file, for ever; after each edit that is written down its number goes to ``said``."""
    windows = [Session(files.load(path), path, _Nobody()) for _ in range(2)]
    rng = random.Random(os.getpid())
    number = 0
    while True:
        number += 1
        which = rng.randrange(2)
        windows[which].edit(set_value("Note it", ("notes",), f"{which} {number}"))
        os.write(said, f"{which} {number}\n".encode())
        if rng.random() < 0.5:
            with contextlib.suppress(ChangedElsewhere):
                windows[which].save()
        elif rng.random() < 0.3:
            windows[which].save(over=True)


def try_kills(count: int, rng: random.Random, bad: list[str]) -> dict[str, Any]:
    folder = Path(tempfile.mkdtemp())
    lost = 0
    for number in range(count):
        home = folder / str(number)
        home.mkdir()
        os.environ["FUENTE_STATE"] = str(home / "state")
        path = home / "room.fuente"
        files.save(DEMOS["reading-room"](), path)
        hear, say = os.pipe()
        child = os.fork()
        if not child:
            os.close(hear)
            with contextlib.suppress(BaseException):
                _two_windows(path, say)
            os._exit(1)
        os.close(say)
        time.sleep(0.15 + 0.6 * rng.random())
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        with os.fdopen(hear) as heard:
            rows = [line.split() for line in heard.read().splitlines()]
        last = {which: int(n) for which, n in (row for row in rows if len(row) == 2)}
        try:
            kept = [files.load(path).notes, *(r.system.notes for r in journal.orphans())]
        except FuenteError as error:
            bad.append(f"kill {number}: {error}")
            continue
        for which, n in last.items():
            known = [int(words.split()[1]) for words in kept if words.split()[:1] == [which]]
            # What the other window has written over on purpose is in no file, but its own journal had it till then.
            if max(known, default=0) < n and not any(words and int(words.split()[1]) > n for words in kept):
                lost += 1
                bad.append(f"kill {number}: window {which} acknowledged {n}, kept {kept}")
    shutil.rmtree(folder)
    return {"kills": count, "acknowledged and lost": lost}


def try_lines(count: int, rng: random.Random, bad: list[str]) -> dict[str, Any]:
    folder = Path(tempfile.mkdtemp())
    os.environ["FUENTE_STATE"] = str(folder / "state")
    good = folder / "room.fuente"
    files.save(DEMOS["reading-room"](), good)
    long = {"demo", "tour", "life", "build", "export", "trials", "instruments", "wet-test"}  # no window, and no minutes
    quick = [c for c in commands() if c not in long]
    words = [
        "--json",
        "--to",
        "--us",
        "-x",
        "--situation",
        "power-cut",
        "900 gph",
        "weir",
        "flow=1e999",
        "",
        "-1",
        "0",
        str(folder),
        "/dev/null",
        "/dev/zero",
        "no3 20",
        "--tank",
        *NAMES,
        "\u2028",
        "x" * 3000,
    ]
    codes: dict[int, int] = {}
    for number in range(count):
        line = [rng.choice(quick)] + ([str(good)] if rng.random() < 0.6 else [])
        line += [rng.choice(words) for _ in range(rng.randrange(4))]
        out, err = io.StringIO(), io.StringIO()
        here = os.getcwd()
        os.chdir(folder)
        try:
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                code = main(line)
        except BaseException as error:
            bad.append(f"line {number}: {line!r:.200}: {type(error).__name__}: {error}"[:400])
            continue
        finally:
            os.chdir(here)
        codes[code] = codes.get(code, 0) + 1
        said = err.getvalue()
        if code not in (0, 1, 2) or "Traceback" in said or (code == 2 and said.strip().count("\n")):
            bad.append(f"line {number}: {line!r:.200}: {code}, {said[:200]!r}")
    shutil.rmtree(folder)
    return {"lines": count, **{f"exit {code}": n for code, n in sorted(codes.items())}}


def try_waits(bad: list[str]) -> dict[str, Any]:
    """A rack of 200 tanks in a window of its own process."""
    script = Path(__file__).with_name("waits.py")
    done = subprocess.run([sys.executable, str(script)], capture_output=True, text=True, timeout=1200)
    if done.returncode:
        bad.append(f"200 tanks: {done.stderr[-400:]}")
        return {"200 tanks": "no answer"}
    found = json.loads(done.stdout.splitlines()[-1])
    for name, (call, gap) in found.items():
        print(f"    {name:28s} call {call:6.0f} ms, longest gap {gap:6.0f} ms")
        if max(call, gap) > HANGS:
            bad.append(f"200 tanks, {name}: {max(call, gap):.0f} ms")
    over = [name for name, row in found.items() if max(row) > 100]
    return {"200 tanks, acts": len(found), "over 0.1 s": len(over), "longest ms": round(max(map(max, found.values())))}


def run(count: int = 20_000, kills: int = 300, lines: int = 500, seed: int = 0) -> int:
    """All four; what failed, and the table."""
    bad: list[str] = []
    rng = random.Random(seed)
    for act, much in ((try_files, count), (try_kills, kills), (try_lines, lines)):
        began = time.monotonic()
        table = act(much, rng, bad)
        print(" · ".join(f"{k} {v}" for k, v in table.items()), f"· {time.monotonic() - began:.0f} s", flush=True)
    began = time.monotonic()
    table = try_waits(bad)
    print(" · ".join(f"{k} {v}" for k, v in table.items()), f"· {time.monotonic() - began:.0f} s", flush=True)
    for row in bad[:60]:
        print(row)
    print(f"{len(bad)} failed")
    return bool(bad)


if __name__ == "__main__":
    sys.exit(run(*map(int, sys.argv[1:5])))
