"""Compare what people take away from a building - report, lists, drawings, IFC - between an earlier
revision and this tree.

usage: compare_revisions.py [REVISION] [--more N] [PROJECT ...]

Without PROJECT: both demos, ordinary other buildings of the tests, N changed demos (default 12) and
the small projects of ``tests/clauses``. Projects are written by the earlier revision, so that
reading older files is tried too. Numbers are held to a billionth. Exit code 1 where anything
differs; each difference is named with its place.
"""

import json
import math
import os
import re
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
NEAR = 1e-9
SHOWN = 12
"""Differences named a file."""

PROJECTS = """
import json, random, sys
from pathlib import Path
from balken.exchange.native import ReadError, from_text, save, to_text
from test_any_project import changed
from test_nothing_silent import ORDINARY
folder, more = Path(sys.argv[1]), int(sys.argv[2])
for make in ORDINARY:
    save(make(), folder / f"{make.__name__}.balken")
bases = [json.loads(to_text(make())) for make in ORDINARY]
chance, made = random.Random(16), 0
while made < more:
    try:
        project = from_text(json.dumps(changed(chance.choice(bases), chance)).encode())
    except ReadError:
        continue
    save(project, folder / f"changed-{made:03d}.balken")
    made += 1
"""
"""Run by the earlier revision: writes the buildings into a folder."""

TAKE_AWAY = """
import contextlib, io, sys
from pathlib import Path
from balken.cli import main
source, target = Path(sys.argv[1]), Path(sys.argv[2])
for file in sorted(source.glob("*.balken")):
    folder = target / file.stem
    folder.mkdir(parents=True)
    for words, name in ((["check", str(file), "--json"], "report.json"), (["check", str(file)], "report.txt"),
                        (["issue", str(file), "--to", str(folder)], "issue.txt")):
        said = io.StringIO()
        with contextlib.redirect_stdout(said), contextlib.redirect_stderr(said):
            try:
                main(words, standalone_mode=False)
            except SystemExit:
                pass
        if name != "issue.txt":
            (folder / name).write_text(said.getvalue())
"""
"""Run by each revision: the commands a person gives, for each project of a folder."""


def main() -> int:
    """Take everything away by both revisions, compare it, and print what differs."""
    words = sys.argv[1:]
    more = int(words[words.index("--more") + 1]) if "--more" in words else 12
    files = [Path(w).resolve() for w in words if w.endswith(".balken")]
    others = [
        w for w in words if not w.startswith("--") and not w.endswith(".balken") and not w.isdigit()
    ]
    revision = others[0] if others else "HEAD"
    with tempfile.TemporaryDirectory() as scratch:
        room = Path(scratch)
        before = room / "tree"
        subprocess.run(
            ["git", "worktree", "add", "-q", "--detach", str(before), revision],
            cwd=ROOT,
            check=True,
        )
        try:
            projects = _projects(before, room / "projects", files, more)
            _run(TAKE_AWAY, before, str(projects), str(room / "before"))
            _run(TAKE_AWAY, ROOT, str(projects), str(room / "after"))
        finally:
            subprocess.run(
                ["git", "worktree", "remove", "--force", str(before)], cwd=ROOT, check=True
            )
        return _print_differences(room / "before", room / "after")


def _projects(tree: Path, folder: Path, files: list[Path], more: int) -> Path:
    folder.mkdir()
    if not files:
        _run(PROJECTS, tree, str(folder), str(more))
        files = sorted((tree / "tests" / "clauses" / "projects").glob("*.balken"))
    for file in files:
        (folder / file.name).write_bytes(file.read_bytes())
    return folder


def _run(script: str, tree: Path, *words: str) -> None:
    paths = [tree / "src", tree / "tests"]
    env = os.environ | {"PYTHONPATH": os.pathsep.join(map(str, paths)), "PYTHONHASHSEED": "0"}
    subprocess.run([sys.executable, "-W", "ignore", "-c", script, *words], env=env, check=True)


def _print_differences(before: Path, after: Path) -> int:
    names = sorted(
        {p.relative_to(f).as_posix() for f in (before, after) for p in f.rglob("*") if p.is_file()}
    )
    differing = 0
    for name in names:
        found = list(_differences(before / name, after / name))
        differing += bool(found)
        for words in found[:SHOWN]:
            print(f"{name}: {words}")
        if len(found) > SHOWN:
            print(f"{name}: {len(found) - SHOWN} more")
    print(f"{len(names)} files compared, {differing} differ.")
    return 1 if differing else 0


def _differences(before: Path, after: Path) -> Iterator[str]:
    if not before.exists() or not after.exists():
        yield "came" if after.exists() else "went"
    elif before.suffix in (".json", ".balken"):
        old, new = (json.loads(f.read_bytes()) for f in (before, after))
        if before.suffix == ".json" or old["format"] == new["format"]:
            yield from _unlike(old, new, "")
    elif before.suffix == ".pdf":
        if before.read_bytes() != after.read_bytes():
            yield "drawn otherwise"
    else:
        yield from _unlike_lines(*(_lines(f) for f in (before, after)))


def _lines(file: Path) -> list[str]:
    """The lines of a text, without the moment of writing that stands in the head of an IFC file."""
    return [x for x in file.read_text().splitlines() if not x.startswith("FILE_NAME")]


NUMBER = re.compile(r"-?\d+\.?\d*(?:[eE][-+]?\d+)?")


def _unlike_lines(old: list[str], new: list[str]) -> Iterator[str]:
    if len(old) != len(new):
        yield f"{len(old)} lines, now {len(new)}"
    for n, (a, b) in enumerate(zip(old, new), 1):
        if a == b:
            continue
        numbers = [[float(x) for x in NUMBER.findall(text)] for text in (a, b)]
        same_words = NUMBER.sub("#", a) == NUMBER.sub("#", b)
        if not same_words or not all(
            math.isclose(x, y, rel_tol=NEAR, abs_tol=NEAR) for x, y in zip(*numbers)
        ):
            yield f"line {n}: {a[:160]}  ->  {b[:160]}"


def _unlike(old: Any, new: Any, place: str) -> Iterator[str]:
    if isinstance(old, dict) and isinstance(new, dict):
        for key in [*old, *(k for k in new if k not in old)]:
            yield from _unlike(old.get(key), new.get(key), f"{place}.{key}")
    elif isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        for n, (a, b) in enumerate(zip(old, new)):
            yield from _unlike(a, b, f"{place}[{n}]")
    elif isinstance(old, float | int) and isinstance(new, float | int):
        if not math.isclose(old, new, rel_tol=NEAR, abs_tol=NEAR):
            yield f"{place}: {old} -> {new}"
    elif old != new:
        yield f"{place}: {str(old)[:120]} -> {str(new)[:120]}"


if __name__ == "__main__":
    sys.exit(main())
