"""Deliberate faults, one at a time: which of them would no test notice?

    ./check --mutants [COUNT] [SEED]

Takes COUNT places (100 unless said) by SEED from laws, sizes, thresholds, judgements and recovery: a number becomes a
tenth greater, a comparison turns round, a sum a difference, a product a quotient. Each stands alone in a copy of the
tree, and the tests run over it until one fails. What no test noticed is listed; the window's own tests are left out, as
they are slow and are not what should notice a law.
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

ROOT = Path(__file__).resolve().parent.parent
# Where a fault would be one of physics, size, judgement or recovery, and which tests are asked first.
WHERE = {
    "water": "water",
    "hydraulics": "hydraulics",
    "network": "network",
    "life": "life",
    "structure": "structure",
    "devices": "devices workshop findings",
    "findings": "findings",
    "study": "study document",
    "answers": "answers",
    "workshop": "workshop",
    "document": "document",
}
SKIPPED = {"sketch.py", "card.py", "spec.py", "__init__.py"}  # pictures, words, fields with their limits
TURNED = {ast.Lt: ast.GtE, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.GtE: ast.Lt, ast.Eq: ast.NotEq}
SWAPPED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}
LONGEST = 600  # s for the tests of one mutant


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
        if path.name not in SKIPPED
        for mutant in mutants_of(path)
    ]
    return random.Random(seed).sample(places, min(count, len(places)))


def noticed(mutant: Mutant) -> str:
    """Name of the first test that fails over a mutant; empty where none does."""
    with tempfile.TemporaryDirectory(prefix="fuente-mutant-") as folder:
        tree = Path(folder)
        for name in ("src", "tests", "docs", "benchmarks"):
            shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
        shutil.copy(ROOT / "pyproject.toml", tree)
        file = tree / mutant.path
        raw = file.read_bytes()
        file.write_bytes(raw[: mutant.begin] + mutant.new.encode() + raw[mutant.end :])
        first = [f"tests/{name}" for name in WHERE[mutant.path.parts[2]].split()] + ["tests/golden"]
        others = [
            f"tests/{p.name}"
            for p in sorted((tree / "tests").iterdir())
            if f"tests/{p.name}" not in first and p.name != "ui" and (p.is_dir() or p.name.startswith("test_"))
        ]
        environment = {
            **os.environ,
            "PYTHONPATH": str(tree / "src"),
            "PYTHONDONTWRITEBYTECODE": "1",
            "QT_QPA_PLATFORM": "offscreen",
            "OPENBLAS_NUM_THREADS": "1",
            "FUENTE_STATE": str(tree / "state"),
        }
        for tests in (first, others):
            command = [sys.executable, "-m", "pytest", "-x", "-q", "-m", "not slow", "-p", "no:xdist", *tests]
            try:
                done = subprocess.run(
                    command, cwd=tree, env=environment, capture_output=True, text=True, timeout=LONGEST, check=False
                )
            except subprocess.TimeoutExpired:
                return "it does not end"
            if done.returncode not in (0, 5):
                failed = [row for row in done.stdout.splitlines() if row.startswith(("FAILED", "ERROR"))]
                return failed[0].split(" - ")[0].split(" ", 1)[1] if failed else "it does not start"
    return ""


def main(count: int = 100, seed: int = 9) -> int:
    """Try them, two at a time, and say what lived."""
    mutants = chosen(count, seed)
    lived = []
    with ThreadPoolExecutor(os.cpu_count() or 2) as pool:
        for i, (mutant, by) in enumerate(zip(mutants, pool.map(noticed, mutants), strict=True), 1):
            print(f"{i:4} {'' if by else 'LIVES '}{mutant.path}:{mutant.line}  {mutant.says}  {by}", flush=True)
            if not by:
                lived.append(mutant)
    print(f"{len(lived)} of {len(mutants)} lived (seed {seed}).")
    return int(len(lived) > len(mutants) / 10)


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:3])))
