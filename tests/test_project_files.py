"""What ships beside the code: launcher, pinned packages, pictures, pages."""

import os
import re
import subprocess
from pathlib import Path

import pytest

from balken.exchange.report import report
from balken.fit.finding import KIND_WORDS
from balken.fit.findings import findings
from balken.works.building import Checked

ROOT = Path(__file__).parents[1]


def test_the_launcher_works_through_a_link_from_anywhere(tmp_path: Path) -> None:
    link = tmp_path / "a link"
    link.symlink_to(ROOT / "balken")
    done = subprocess.run(
        [str(link), "--version"], cwd=tmp_path, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.startswith("balken, version")


def test_the_launcher_is_sound_shell() -> None:
    assert subprocess.run(["bash", "-n", str(ROOT / "balken")], check=False).returncode == 0
    assert os.access(ROOT / "balken", os.X_OK)
    assert os.access(ROOT / ".ci" / "run", os.X_OK)


def test_no_screen_is_said_in_words() -> None:
    environment = {
        k: v
        for k, v in os.environ.items()
        if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    }
    done = subprocess.run(
        [str(ROOT / "balken"), "demo"], env=environment, capture_output=True, text=True, check=False
    )
    assert done.returncode == 2
    assert "no screen" in done.stderr
    assert "Traceback" not in done.stderr


def test_every_package_is_pinned_and_none_has_an_address() -> None:
    for line in (ROOT / "requirements.lock").read_text().splitlines():
        if line and not line.startswith("#"):
            assert re.fullmatch(r"[A-Za-z0-9_.-]+==[A-Za-z0-9_.]+", line), line


def test_the_readme_shows_pictures_that_are_there() -> None:
    text = (ROOT / "README.md").read_text()
    assert text.startswith("![")
    shown = re.findall(r"\((docs/screenshots/[^)]+)\)", text)
    there = {f"docs/screenshots/{p.name}" for p in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert set(shown) == there
    assert len(there) < 20
    for page in re.findall(r"\]\((?!docs/screenshots)([^)#]+)\)", text):
        assert (ROOT / page).exists(), page


def test_the_report_page_names_every_key(demo_checked: Checked) -> None:
    page = (ROOT / "docs" / "report.md").read_text()
    document = report(demo_checked, findings(demo_checked))
    keys = set(document) | set(document["walls"][0]) | set(document["walls"][0]["openings"][0])
    keys |= (
        set(document["members"][0])
        | set(document["findings"][0])
        | set(document["loads"])
        | set(document["sizes"][0])
    )
    for key in keys:
        assert f"`{key}`" in page, key
    for kind in KIND_WORDS:
        assert f"`{kind}`" in page, kind


@pytest.mark.parametrize(
    "path", sorted((ROOT / "src").rglob("*.py")), ids=lambda p: str(p.relative_to(ROOT))
)
def test_every_file_says_what_it_is_for(path: Path) -> None:
    text = path.read_text(encoding="utf-8").strip()
    assert not text or text.startswith('"""'), path
