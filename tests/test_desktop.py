"""The desktop's files: written whole, accepted by the desktop's own tools, taken away again."""

from __future__ import annotations

import shutil
import subprocess
import xml.etree.ElementTree as ElementTree

import pytest
from click.testing import CliRunner
from PySide6.QtGui import QImage

from fuente.cli import cli
from fuente.demo.reading_room import reading_room
from fuente.desktop import ID, MIME, _quoted, files, install, remove
from fuente.document.files import text_of


@pytest.fixture
def home(tmp_path, monkeypatch, qapp):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    return tmp_path


def test_they_are_written_and_taken_away(home):
    found = CliRunner().invoke(cli, ["--install-desktop"])
    assert found.exit_code == 0
    assert all(path.exists() for path in files(home))
    text = (home / "applications" / f"{ID}.desktop").read_text()
    assert "%f" in text.split("Exec=")[1].splitlines()[0]
    assert f"MimeType={MIME};" in text
    for size in (16, 256):
        picture = QImage(str(home / "icons" / "hicolor" / f"{size}x{size}" / "apps" / f"{ID}.png"))
        assert (picture.width(), picture.height()) == (size, size)
        assert len({picture.pixel(x, size // 2) for x in range(size)}) > 2
    assert CliRunner().invoke(cli, ["--remove-desktop"]).exit_code == 0
    assert not any(path.exists() for path in files(home))
    assert remove() == []


def test_the_file_type_is_known_by_its_name_and_its_first_bytes(home):
    install()
    tree = ElementTree.parse(home / "mime" / "packages" / f"{ID}.xml")
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    assert tree.find(f".//{space}glob").get("pattern") == "*.fuente"
    match = tree.find(f".//{space}match")
    low, high = (int(n) for n in match.get("offset").split(":"))
    assert low <= text_of(reading_room()).find(match.get("value")) <= high


@pytest.mark.skipif(not shutil.which("appstreamcli"), reason="no appstreamcli here")
def test_appstream_accepts_it(home):
    install()
    found = subprocess.run(
        ["appstreamcli", "validate", "--no-net", str(home / "metainfo" / f"{ID}.metainfo.xml")],
        capture_output=True,
        text=True,
        check=False,
    )
    assert " E: " not in found.stdout
    assert "Validation failed" not in found.stdout or "errors: " not in found.stdout


@pytest.mark.skipif(not shutil.which("desktop-file-validate"), reason="no desktop-file-validate here")
def test_the_entry_is_valid(home):
    install()
    found = subprocess.run(
        ["desktop-file-validate", str(home / "applications" / f"{ID}.desktop")],
        capture_output=True,
        text=True,
        check=False,
    )
    assert found.returncode == 0, found.stdout


def test_odd_paths_are_quoted():
    assert _quoted(["/home/a b/100%/fuente"]) == ['"/home/a b/100%%/fuente"']
    assert _quoted(["/usr/bin/fuente"]) == ["/usr/bin/fuente"]
