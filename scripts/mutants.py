"""Deliberate faults, one at a time: which of them would no test notice?

    ./check --mutants [COUNT] [SEED]

Takes COUNT places (100 unless said) by SEED from laws, sizes, thresholds, judgements and recovery: a number becomes a
tenth greater, a comparison turns round, a sum a difference, a product a quotient. First the tests run once over the
tree as it is, to learn which of them pass through which line. Each fault then stands alone in a copy of the tree, and
the tests that pass through its line run, quickest first, until one fails. What no test noticed is listed; the window's
own tests are left out, as they are slow and are not what should notice a law.
"""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from xml.etree import ElementTree

import coverage

ROOT = Path(__file__).resolve().parent.parent
# Where a fault would be one of physics, size, judgement or recovery.
WHERE = ("water", "hydraulics", "network", "life", "structure", "devices", "findings", "study", "answers", "workshop")
WHERE += ("document", "upkeep", "instruments")
NEAR = {"devices": ("devices", "workshop", "findings"), "study": ("study", "document"), "findings": ("findings",)}
SKIPPED = ("sketch.py", "card.py", "spec.py", "__init__.py")  # pictures, words, fields with their limits
TURNED = {ast.Lt: ast.GtE, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.GtE: ast.Lt, ast.Eq: ast.NotEq}
SWAPPED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}
# What reads every field of every kind without passing through the module that defines it.
SCHEMA = {"tests/document/test_files.py::test_the_published_schema_is_current_and_takes_the_demo"}
LONGEST = 240  # s for the tests of one mutant


@dataclass(frozen=True)
class Mutant:
    """One fault: file, line, the text before and after, as offsets in the file's bytes."""

    path: Path
    line: int
    begin: int
    end: int
    new: str
    says: str


def mutants_of(path: Path) -> Iterator[Mutant]:
    """All places of a module where a fault can be put."""
    raw = path.read_bytes()
    starts = [0]
    for line in raw.splitlines(keepends=True):
        starts.append(starts[-1] + len(line))

    def place(node: ast.expr) -> tuple[int, int]:
        assert node.end_lineno is not None
        assert node.end_col_offset is not None
        return starts[node.lineno - 1] + node.col_offset, starts[node.end_lineno - 1] + node.end_col_offset

    for node in ast.walk(ast.parse(raw)):
        if not isinstance(node, ast.Constant | ast.Compare | ast.BinOp):
            continue
        begin, end = place(node)
        old = raw[begin:end].decode()
        changed: ast.expr
        if isinstance(node, ast.Constant):
            if type(node.value) is not float or node.value == 0.0:
                continue
            changed = ast.Constant(node.value * 1.1)
        elif isinstance(node, ast.Compare):
            if len(node.ops) != 1 or type(node.ops[0]) not in TURNED:
                continue
            changed = ast.Compare(node.left, [TURNED[type(node.ops[0])]()], node.comparators)
        else:
            if type(node.op) not in SWAPPED or any(isinstance(n, ast.JoinedStr | ast.Tuple) for n in ast.walk(node)):
                continue
            changed = ast.BinOp(node.left, SWAPPED[type(node.op)](), node.right)
        new = f"({ast.unparse(changed)})"
        yield Mutant(path.relative_to(ROOT), node.lineno, begin, end, new, f"{_short(old)}  →  {_short(new)}")


def _short(text: str) -> str:
    flat = " ".join(text.split())
    return flat if len(flat) <= 60 else flat[:57] + "…"


def chosen(count: int, seed: int) -> list[Mutant]:
    """So many of all places, the rooms as likely as they are large."""
    places = [
        mutant
        for room in WHERE
        for path in sorted((ROOT / "src/fuente" / room).rglob("*.py"))
        if not path.name.endswith(SKIPPED)
        for mutant in mutants_of(path)
    ]
    return random.Random(seed).sample(places, min(count, len(places)))


class Passes:
    """Which tests pass through which line, and how long each takes, s."""

    def __init__(self, record: Path, times: Path):
        self.data = coverage.CoverageData(str(record))
        self.data.read()
        self.files = {Path(f).relative_to(ROOT): f for f in self.data.measured_files() if Path(f).is_relative_to(ROOT)}
        self.seconds: dict[str, float] = {}
        for case in ElementTree.parse(times).iter("testcase"):
            name = f"{str(case.get('classname')).replace('.', '/')}.py::{case.get('name')}"
            self.seconds[name] = self.seconds.get(name, 0.0) + float(case.get("time") or 0.0)

    def tests(self, mutant: Mutant) -> list[str]:
        """Those that pass through a fault's line, its own room's first, then quickest first; what only runs at import
        is any test's that passes through its file, and what a fixture runs is its whole file's.
        """
        whole = self.files.get(mutant.path)
        if whole is None:
            return []
        by_line = self.data.contexts_by_lineno(whole)
        contexts = {c for c in by_line.get(mutant.line, []) if c}
        at_import = not contexts
        if at_import:
            contexts = {c for line in by_line.values() for c in line if c}
        single = {c.rpartition("|")[0] for c in contexts} | (SCHEMA if at_import else set())
        files = {c.partition("::")[0] for c in contexts if c.endswith("|setup")}
        shared = [name for name in self.seconds if name.partition("::")[0] in files]
        room = mutant.path.parts[2]
        near = tuple(f"tests/{name}/" for name in NEAR.get(room, (room,)))

        def late(name: str) -> tuple[bool, float]:
            return not name.startswith(near), self.seconds.get(name, 0.0)

        return sorted(single | set(shared), key=late)


def learn(folder: Path) -> Passes:
    """Run the tests once with a record of which passes where; raises RuntimeError where one fails."""
    record, times = folder / "passes", folder / "times.xml"
    command = [sys.executable, "-m", "pytest", "-q", "-n", "2", "--ignore=tests/ui"]
    command += ["--cov=src/fuente", "--cov-context=test", "--cov-report=", f"--junitxml={times}", "tests"]
    done = subprocess.run(command, cwd=ROOT, env=_environment(ROOT, record), check=False)
    if done.returncode:
        raise RuntimeError("The tests fail as they are: mend them first.")
    return Passes(record, times)


def _environment(tree: Path, record: Path | None = None) -> dict[str, str]:
    more = {"COVERAGE_FILE": str(record)} if record else {}
    return {
        **os.environ,
        **more,
        "PYTHONPATH": str(tree / "src"),
        "PYTHONDONTWRITEBYTECODE": "1",
        "QT_QPA_PLATFORM": "offscreen",
        "OPENBLAS_NUM_THREADS": "1",
        "FUENTE_STATE": str(tree / "state"),
    }


def noticed(mutant: Mutant, tests: list[str]) -> str:
    """Name of the first test that fails over a mutant; empty where none does."""
    if not tests:
        return ""
    with tempfile.TemporaryDirectory(prefix="fuente-mutant-") as folder:
        tree = Path(folder)
        for name in ("src", "tests", "docs", "benchmarks"):
            shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
        shutil.copy(ROOT / "pyproject.toml", tree)
        file = tree / mutant.path
        raw = file.read_bytes()
        file.write_bytes(raw[: mutant.begin] + mutant.new.encode() + raw[mutant.end :])
        (tree / "tests.txt").write_text("\n".join(tests))
        command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:xdist", "-p", "no:cov", "@tests.txt"]
        try:
            done = subprocess.run(
                command,
                cwd=tree,
                env=_environment(tree),
                capture_output=True,
                text=True,
                timeout=LONGEST,
                check=False,
            )
        except subprocess.TimeoutExpired:
            return "it does not end"
        if done.returncode in (0, 5):
            return ""
        failed = [row for row in done.stdout.splitlines() if row.startswith(("FAILED", "ERROR"))]
        return failed[0].split(" - ")[0].split(" ", 1)[1] if failed else "it does not start"


def main(count: int = 100, seed: int = 9) -> int:
    """Try them, two at a time, and say what lived."""
    mutants = chosen(count, seed)
    lived = []
    with (
        tempfile.TemporaryDirectory(prefix="fuente-passes-") as folder,
        ThreadPoolExecutor(os.cpu_count() or 2) as pool,
    ):
        passes = learn(Path(folder))
        wanted = [passes.tests(mutant) for mutant in mutants]
        for i, (mutant, by) in enumerate(zip(mutants, pool.map(noticed, mutants, wanted), strict=True), 1):
            print(f"{i:4} {'' if by else 'LIVES '}{mutant.path}:{mutant.line}  {mutant.says}  {by}", flush=True)
            if not by:
                lived.append(mutant)
    print(f"{len(lived)} of {len(mutants)} lived (seed {seed}).")
    return int(len(lived) > len(mutants) / 10)


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:3])))
