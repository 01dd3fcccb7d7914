"""What is drawn on a plan by hand: a dimension, and a cloud round what a revision changed."""

from functools import partial
from typing import Final

from balken.model.edits.paper_rows import set_row
from balken.model.paper import Cloud, DimensionKind, HandDimension
from balken.session.desk import Desk
from balken.session.rows import Fact, Field, Line, Options, Rows, Title
from balken.session.things.on_paper import on_paper

CALLED: Final[dict[DimensionKind, str]] = {
    "linear": "String along the building",
    "aligned": "String as its places lie",
    "radius": "Radius",
    "level": "Height",
}
RUNS: Final[list[tuple[str, DimensionKind]]] = [
    ("along the building", "linear"),
    ("as its places lie", "aligned"),
]


def _dimension(desk: Desk, item: HandDimension) -> Rows:
    yield Title(CALLED[item.kind], "drawn by hand, on its plan and its sheet")
    if item.kind in ("linear", "aligned"):
        turn = partial(set_row, rows="dimensions", key=item.id)
        yield Options(
            "runs", RUNS, item.kind, lambda v: desk.edit("turn string", partial(turn, kind=v))
        )
    for hold in item.holds:
        words = f"{hold.key} {hold.part}".strip() if hold.kind else "a place of the plan"
        yield Fact(f"holds {hold.kind}".strip(), words)
    yield Line(
        "It measures what it holds as it is. Drag its string to where there is room.", quiet=True
    )


DIMENSION = on_paper("dimension", "dimensions", _dimension, lambda d: CALLED[d.kind].lower())


def _cloud(desk: Desk, item: Cloud) -> Rows:
    put = partial(set_row, rows="clouds", key=item.id)
    yield Title("Cloud", "round what a revision changed")
    yield Field("revision", item.mark, lambda t: desk.edit("cloud", partial(put, mark=t.strip())))
    yield Line("Revisions are on the page of the set of sheets.", quiet=True)


CLOUD = on_paper("cloud", "clouds", _cloud, lambda c: f"cloud of revision {c.mark}".strip())
