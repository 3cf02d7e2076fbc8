"""At home on the desktop: entry, icons, file type and description in the user's own folders, and their removal."""

from __future__ import annotations

import contextlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

from fuente.errors import FuenteError

ID = "fuente"
MIME = "application/x-fuente"
SUMMARY = "Design and prove home-built aquarium and pond filtration"


def data_home() -> Path:
    """Where the user's applications are described."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def entry(command: str) -> str:
    """The desktop entry. ``command`` starts Fuente."""
    return "\n".join(
        (
            "[Desktop Entry]",
            "Type=Application",
            "Name=Fuente",
            "GenericName=Aquarium and pond filtration",
            f"Comment={SUMMARY}",
            f"Exec={command} %f",
            f"Icon={ID}",
            "Terminal=false",
            "Categories=Engineering;Science;",
            "Keywords=aquarium;pond;filter;sump;pump;",
            f"MimeType={MIME};",
            "StartupNotify=true",
            "StartupWMClass=fuente",
            "",
        )
    )


MIME_INFO = f"""<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{MIME}">
    <comment>Fuente design</comment>
    <sub-class-of type="application/json"/>
    <magic priority="60">
      <match type="string" value="&quot;format&quot;: &quot;fuente&quot;" offset="0:64"/>
    </magic>
    <glob pattern="*.fuente"/>
  </mime-type>
</mime-info>
"""
METAINFO = f"""<?xml version="1.0" encoding="UTF-8"?>
<component type="desktop-application">
  <id>{ID}</id>
  <metadata_license>CC0-1.0</metadata_license>
  <name>Fuente</name>
  <summary>{SUMMARY}</summary>
  <description>
    <p>
      Fuente sizes sumps, drums, moving beds, foam walls and other filters that people build themselves. It solves
      where the water stands while it runs, after a power cut and when something breaks, says what it would change,
      and gives cut lists, holes, steps, upkeep and a log.
    </p>
  </description>
  <launchable type="desktop-id">{ID}.desktop</launchable>
  <provides>
    <mediatype>{MIME}</mediatype>
    <binary>fuente</binary>
  </provides>
  <categories>
    <category>Engineering</category>
    <category>Science</category>
  </categories>
  <content_rating type="oars-1.1"/>
</component>
"""


def files(home: Path) -> list[Path]:
    """Every file that is put there."""
    from fuente.ui.app_icon import SIZES

    icons = [home / "icons" / "hicolor" / f"{s}x{s}" / "apps" / f"{ID}.png" for s in SIZES]
    return [
        home / "applications" / f"{ID}.desktop",
        home / "mime" / "packages" / f"{ID}.xml",
        home / "metainfo" / f"{ID}.metainfo.xml",
        *icons,
        home / "man" / "man1" / f"{ID}.1",
    ]


def install(home: Path | None = None, manual: str = "") -> list[Path]:
    """Put them there, with the man page in roff; what was written. Raises FuenteError where it cannot be."""
    from fuente.ui.app_icon import SIZES, image
    from fuente.ui.application import application

    application("light", 1.0)
    home = home or data_home()
    written = files(home)
    try:
        for path in written:
            path.parent.mkdir(parents=True, exist_ok=True)
        written[0].write_text(entry(_command()), encoding="utf-8")
        written[1].write_text(MIME_INFO, encoding="utf-8")
        written[2].write_text(METAINFO, encoding="utf-8")
        written[-1].write_text(manual, encoding="utf-8")
        for path, size in zip(written[3:-1], SIZES, strict=True):
            if not image(size).save(str(path)):
                raise OSError(f"{path} could not be written")
    except OSError as error:
        raise FuenteError(f"The desktop entry could not be written: {error}.") from None
    _refresh(home)
    return written


def remove(home: Path | None = None) -> list[Path]:
    """Take them away again; what was there."""
    home = home or data_home()
    gone = [path for path in files(home) if path.exists()]
    for path in gone:
        path.unlink()
    _refresh(home)
    return gone


def _command() -> str:
    """How Fuente is started: its own command where it is installed, else this Python."""
    own = shutil.which("fuente") or str(Path(sys.executable).with_name("fuente"))
    words = [own] if Path(own).exists() else [sys.executable, "-m", "fuente"]
    return " ".join(_quoted(words))


def _quoted(words: Iterable[str]) -> list[str]:
    """Arguments as a desktop entry wants them."""
    found = []
    for word in words:
        word = word.replace("%", "%%")
        if any(c in word for c in " \"'\\><~|&;$*?#()`\t\n"):
            word = '"' + "".join("\\" + c if c in '"`$\\' else c for c in word) + '"'
        found.append(word)
    return found


def _refresh(home: Path) -> None:
    """Tell the desktop, where its tools are there."""
    for command in (
        ["update-mime-database", str(home / "mime")],
        ["update-desktop-database", str(home / "applications")],
    ):
        if shutil.which(command[0]):
            with contextlib.suppress(OSError, subprocess.SubprocessError):
                subprocess.run(command, capture_output=True, timeout=30, check=False)
