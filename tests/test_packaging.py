"""A wheel and an sdist are built from what is committed, and what is in the wheel runs away from the source."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tarfile
import zipfile
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


@pytest.fixture(scope="module")
def built(tmp_path_factory):
    """The files, built in a copy so that nothing is left in the tree."""
    copy, out = tmp_path_factory.mktemp("copy"), tmp_path_factory.mktemp("dist")
    for name in ("pyproject.toml", "README.md", "requirements.txt"):
        shutil.copy(ROOT / name, copy / name)
    shutil.copytree(ROOT / "src" / "fuente", copy / "src" / "fuente", ignore=shutil.ignore_patterns("__pycache__"))
    command = [sys.executable, "-m", "build", "--no-isolation", "--outdir", str(out), str(copy)]
    made = subprocess.run(command, capture_output=True, text=True, check=False, timeout=300)
    assert made.returncode == 0, made.stdout[-2000:] + made.stderr[-2000:]
    return out


@pytest.mark.slow
def test_the_wheel_runs_away_from_the_source(built, tmp_path):
    (wheel,) = built.glob("*.whl")
    with zipfile.ZipFile(wheel) as archive:
        archive.extractall(tmp_path / "site")
        metadata = archive.read(next(n for n in archive.namelist() if n.endswith("METADATA"))).decode()
    wanted = [w for w in (ROOT / "requirements.txt").read_text().splitlines() if w and not w.startswith("#")]
    assert [f"Requires-Dist: {w}" for w in wanted] == [
        line for line in metadata.splitlines() if line.startswith("Requires-Dist")
    ]
    env = {**os.environ, "PYTHONPATH": str(tmp_path / "site"), "PYTHONDONTWRITEBYTECODE": "1"}

    def run(*words):
        found = subprocess.run(
            [sys.executable, *words], capture_output=True, text=True, env=env, cwd=tmp_path, check=False, timeout=120
        )
        assert found.returncode == 0, found.stderr[-2000:]
        return found.stdout

    assert run("-c", "import fuente; print(fuente.__file__)").startswith(str(tmp_path / "site"))
    assert "mm" in run("-m", "fuente", "answer", "weir", "flow=3000 L/h", "length=400 mm")
    fonts = "from fuente.ui.application import application; application('light', 1.0); print('shown')"
    env["QT_QPA_PLATFORM"] = "offscreen"
    assert "shown" in run("-c", fonts)


@pytest.mark.slow
def test_the_sdist_has_what_builds_it(built):
    (source,) = built.glob("*.tar.gz")
    with tarfile.open(source) as archive:
        names = {n.split("/", 1)[1] for n in archive.getnames() if "/" in n}
    assert {"pyproject.toml", "requirements.txt", "src/fuente/cli.py", "src/fuente/catalogue/catalogue.toml"} <= names
    assert any(n.endswith(".otf") for n in names)
    assert any(n.endswith(".svg") for n in names)
