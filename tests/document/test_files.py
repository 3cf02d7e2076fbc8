"""Files: round trip, twenty broken ones, atomic saving, migration, the published schema."""

import json
import os
from pathlib import Path

import jsonschema
import pytest

from devices_of import sumps
from fuente.demo import DEMOS
from fuente.demo.cascade import cascade
from fuente.devices import KINDS
from fuente.document import files
from fuente.document.files import MIGRATIONS, backup_of, load, migrate, parse, save, schema, text_of
from fuente.document.system import FORMAT_VERSION, System, apply, set_value
from fuente.errors import DocumentError
from fuente.study.analysis import Analysis

HERE = Path(__file__).parent


def test_round_trip_is_exact_and_stable(demo, tmp_path):
    path = tmp_path / "a.fuente"
    save(demo, path)
    assert load(path) == demo
    assert text_of(load(path)) == path.read_text("utf-8")


def data(demo: System) -> dict:
    return json.loads(text_of(demo))


def broken(demo: System) -> dict[str, bytes]:
    good = text_of(demo)
    base = data(demo)

    def with_(**change) -> bytes:
        return json.dumps({**base, **change}).encode()

    def deep(value, *path) -> bytes:
        copy = json.loads(good)
        node = copy
        for step in path[:-1]:
            node = node[step]
        node[path[-1]] = value
        return json.dumps(copy).encode()

    return {
        "empty": b"",
        "blank": b"  \n ",
        "binary": bytes(range(256)),
        "cut short": good[: len(good) // 2].encode(),
        "not json": b"sump: 900 mm",
        "a list": b"[1, 2, 3]",
        "foreign": b'{"format": "other", "version": 1}',
        "no version": json.dumps({k: v for k, v in base.items() if k != "version"}).encode(),
        "version word": with_(version="one"),
        "newer": with_(version=FORMAT_VERSION + 7),
        "version zero": with_(version=0),
        "nested": b"[" * 5000 + b"]" * 5000,
        "nested objects": b'{"format":' + b'{"a":' * 300 + b"1" + b"}" * 300 + b"}",
        "not a number": good.replace('"stand": 0.8', '"stand": NaN').encode(),
        "twice": good.replace(
            '"name": "Reading-room tank",\n "place"', '"name": "x",\n "name": "y",\n "place"'
        ).encode(),
        "unknown key": with_(wizard=True),
        "negative": deep(-1.5, "devices", 0, "length"),
        "too large": deep(1e9, "devices", 0, "height"),
        "words for numbers": deep("wide", "devices", 0, "width"),
        "no tank": with_(devices=base["devices"][1:2]),
        "lost end": deep("attic", "devices", 3, "tank"),
        "too long chambers": deep(0.9, "devices", 2, "chambers", 1, "width"),
        "unknown pipe": deep("99-pn99", "devices", 1, "drains", 0, "pipe"),
        "same id": deep("socks", "devices", 2, "chambers", 1, "id"),
        "unknown kind": deep("barge", "devices", 2, "kind"),
        "a kind that is an object": deep({"a": 1}, "devices", 2, "kind"),
        "a device that is a word": with_(devices=["sump"]),
    }


def test_every_broken_file_gets_its_own_sentence(demo, tmp_path):
    said = {}
    for name, raw in broken(demo).items():
        path = tmp_path / f"{name}.fuente"
        path.write_bytes(raw)
        with pytest.raises(DocumentError) as caught:
            load(path)
        sentence = str(caught.value)
        assert sentence.endswith(".")
        assert name in sentence
        assert len(sentence) < 300
        assert path.read_bytes() == raw
        said[name] = sentence.replace(name, "")
    assert len(said) >= 20
    assert len(set(said.values())) >= 17


@pytest.mark.parametrize(
    ("name", "words"),
    [
        ("cut short", "damaged at line"),
        ("newer", "newer Fuente"),
        ("foreign", "not a Fuente design"),
        ("nested", "nested more than"),
        ("negative", "Length outside must be at least 150 mm"),
        ("too long chambers", "leave"),
        ("lost end", "not there"),
        ("twice", "stands twice"),
        ("binary", "is not text"),
    ],
)
def test_the_sentence_says_what_is_wrong(demo, name, words):
    with pytest.raises(DocumentError, match=words):
        parse(broken(demo)[name], name)


def test_missing_huge_and_folder(tmp_path):
    with pytest.raises(DocumentError, match="no file"):
        load(tmp_path / "none.fuente")
    with pytest.raises(DocumentError, match="folder"):
        load(tmp_path)
    big = tmp_path / "big.fuente"
    with big.open("wb") as out:
        out.truncate(files.LARGEST + 1)
    with pytest.raises(DocumentError, match="something else"):
        load(big)


def test_saving_keeps_one_backup_and_leaves_no_scraps(demo, tmp_path):
    path = tmp_path / "a.fuente"
    save(demo, path)
    changed = apply(demo, set_value("n", ("name",), "Second"))
    save(changed, path)
    assert load(path).name == "Second"
    assert load(backup_of(path)).name == demo.name
    assert sorted(p.name for p in tmp_path.iterdir() if p.is_file()) == ["a.fuente", "a.fuente~"]


def test_a_failed_save_leaves_the_old_file(demo, tmp_path, monkeypatch):
    path = tmp_path / "a.fuente"
    save(demo, path)
    before = path.read_bytes()
    monkeypatch.setattr(os, "replace", lambda *_: (_ for _ in ()).throw(OSError(28, "No space left on device")))
    with pytest.raises(DocumentError, match="No space left"):
        save(apply(demo, set_value("n", ("name",), "X")), path)
    assert path.read_bytes() == before
    assert not list(tmp_path.glob(".a.fuente*"))


def test_never_over_a_foreign_file(demo, tmp_path):
    path = tmp_path / "letter.fuente"
    path.write_text("Dear librarian")
    with pytest.raises(DocumentError, match="not written over"):
        save(demo, path)
    assert path.read_text() == "Dear librarian"


def test_the_first_version_is_still_read():
    """This file was written by the first version and must open for ever."""
    old = load(HERE / "data" / "version-1.fuente")
    assert old.tanks[0].length == pytest.approx(1.5)
    assert [c.role for c in sumps(old)[0].chambers] == ["socks", "foam", "moving_bed", "trap", "pump"]


def test_the_second_version_is_still_read():
    """Written by the last Fuente that knew sumps alone: it says the same as that demo of today, whose lower sump has
    since been given thicker glass, and its pump another name.
    """
    old = load(HERE / "data" / "version-2.fuente")
    glass = apply(old, set_value("x", ("devices", "lower", "thickness"), 0.01))
    manifold = next(d.id for d in glass.devices if d.kind == "manifold")
    pump = ("devices", manifold, "feeders", 0, "pump", "name")
    assert apply(glass, set_value("x", pump, cascade().by_id[manifold].feeders[0].pump.name)) == cascade()
    assert old.version == FORMAT_VERSION


@pytest.mark.parametrize("name", [p.stem for p in sorted((HERE / "data").glob("version-*.fuente"))])
def test_files_of_every_version_open_to_the_same_levels(name):
    """Levels in m as the Fuente that wrote them, or first read them, solved them; what still trickled over a crest,
    up to 0.1 mm high, has since run out.
    """
    known = json.loads((HERE / "data" / "levels.json").read_text("utf-8"))[name]
    analysis = Analysis(load(HERE / "data" / f"{name}.fuente"))
    for situation, levels in known.items():
        found = analysis.situation(situation).solution.level
        assert found.keys() == levels.keys()
        for cell, level in levels.items():
            assert found[cell] == pytest.approx(level, abs=2e-9), (situation, cell)


def test_migrations_run_in_order_and_miss_none():
    seen = []
    chain = {n: (lambda d, n=n: (seen.append(n), {**d, f"step{n}": True})[1]) for n in (1, 2, 3)}
    out = migrate({"version": 1}, 1, chain, "x", to=4)
    assert seen == [1, 2, 3]
    assert out["version"] == 4
    assert out["step2"]
    with pytest.raises(DocumentError, match="no longer reads"):
        migrate({"version": 1}, 1, {2: chain[2]}, "x", to=3)
    assert set(MIGRATIONS) == set(range(1, FORMAT_VERSION))


def test_the_published_schema_is_current_and_takes_the_demo(demo):
    published = json.loads((HERE.parents[1] / "docs" / "fuente.schema.json").read_text("utf-8"))
    assert published == schema(), "run: fuente schema > docs/fuente.schema.json"
    for make in DEMOS.values():
        jsonschema.validate(data(make()), published)
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({**data(demo), "wizard": 1}, published)
    deep = data(demo)
    deep["devices"][0]["height"] = 40.0  # m
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(deep, published)


def test_the_published_schema_has_every_field_of_every_kind_with_its_limits():
    defs = schema()["$defs"]
    for kind in KINDS.values():
        fields = defs[kind.spec.__name__]["properties"]
        assert fields.keys() == kind.spec.model_fields.keys()
    bore = defs["Sponge"]["properties"]["bore"]
    assert (bore["minimum"], bore["maximum"]) == (0.006, 0.11)
    # No two kinds call different parts by one name: the later would stand for both.
    parts: dict[str, object] = {}
    for kind in KINDS.values():
        for name, part in kind.spec.model_json_schema().get("$defs", {}).items():
            assert parts.setdefault(name, part) == part, name


@pytest.mark.parametrize(("raw", "byte"), [(b"\xff{}", 1), (b'{"a": \xe9}', 7)])
def test_a_byte_that_is_no_text_is_counted_from_one(raw, byte):
    with pytest.raises(DocumentError, match=f"byte {byte} does not belong"):
        parse(raw, "x")


def test_a_link_is_followed_and_stays(demo, tmp_path):
    """The design behind a link is written, and the link is still one; its backup lies beside the design."""
    (tmp_path / "far").mkdir()
    target, link = tmp_path / "far" / "a.fuente", tmp_path / "here.fuente"
    save(demo, target)
    link.symlink_to(target)
    save(apply(demo, set_value("n", ("name",), "Second")), link)
    assert link.is_symlink()
    assert load(target).name == "Second"
    assert load(backup_of(target)).name == demo.name
    assert sorted(p.name for p in tmp_path.iterdir()) == ["far", "here.fuente"]


def test_a_backup_goes_over_nobody_s_file_and_through_no_link(demo, tmp_path):
    path, letter = tmp_path / "a.fuente", tmp_path / "letter.txt"
    letter.write_text("Dear librarian")
    save(demo, path)
    path.with_name("a.fuente~").symlink_to(letter)
    path.with_name("a.fuente~1").write_text("Mine")
    for name in ("Second", "Third"):
        save(apply(demo, set_value("n", ("name",), name)), path)
    assert letter.read_text() == "Dear librarian"
    assert path.with_name("a.fuente~1").read_text() == "Mine"
    assert load(path.with_name("a.fuente~2")).name == "Second"
    assert backup_of(path) == path.with_name("a.fuente~2")


def test_a_backup_that_cannot_be_made_whole_leaves_the_last_one(demo, tmp_path, monkeypatch):
    import shutil

    path = tmp_path / "a.fuente"
    save(demo, path)
    save(apply(demo, set_value("n", ("name",), "Second")), path)

    def torn(source, to):
        with open(to, "wb") as out:
            out.write(b"{")
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(shutil, "copy2", torn)
    with pytest.raises(DocumentError, match="No space left"):
        save(apply(demo, set_value("n", ("name",), "Third")), path)
    assert load(backup_of(path)).name == demo.name
    assert load(path).name == "Second"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["a.fuente", "a.fuente~"]


@pytest.mark.parametrize("kind", ["design", "curve", "log"])
def test_what_is_no_ordinary_file_is_said_at_once(kind, tmp_path):
    """Pipes that nobody writes into, devices, folders, files of /proc: a sentence, and no waiting."""
    from fuente.document.curves import read_curve
    from fuente.errors import FuenteError
    from fuente.upkeep.csv_log import rows_of

    read = {"design": load, "curve": read_curve, "log": rows_of}[kind]
    pipe = tmp_path / "pipe.csv"
    os.mkfifo(pipe)
    for path, words in (
        (pipe, "ordinary"),
        (Path("/dev/zero"), "ordinary"),
        (Path("/proc/self/status"), "ordinary"),
        (tmp_path, "folder"),
        (tmp_path / "none", "no file"),
    ):
        with pytest.raises(FuenteError, match=words) as caught:
            read(path)
        assert "\n" not in str(caught.value)


def test_sentences_are_one_line_whatever_the_name_is(tmp_path, capsys):
    from fuente.cli import main

    for name in ("two\nlines.fuente", "x" * 200 + ".fuente", "tab\tbell\a.fuente"):
        assert main(["check", str(tmp_path / name)]) == 2
        said = capsys.readouterr().err
        assert said.count("\n") == 1
        assert len(said) < 400
        assert said.strip().isprintable()


def test_cells_that_are_huge_get_a_sentence(tmp_path):
    from fuente.document.curves import read_curve
    from fuente.errors import FuenteError

    path = tmp_path / "points.csv"
    path.write_text("0," + "9" * 150_000 + "\n")
    with pytest.raises(FuenteError, match=r"table|number"):
        read_curve(path)
    path.write_text('0,"' + "x" * 190_000 + "\n")
    with pytest.raises(FuenteError):
        read_curve(path)
