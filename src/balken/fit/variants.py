"""What would another spacing, another grade, or more depth do to the whole building: each variant is
sized anew, roof to footing, and told beside the building as it is."""

from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import Final, NamedTuple

from balken.design.sizing import Sized
from balken.errors import BalkenError
from balken.fit.findings import findings
from balken.fit.whole_sizing import size_whole
from balken.model.catalogue import GRADES_OF, PRICE_FACTOR
from balken.model.edits import move_level, set_floor
from balken.model.edits.common import checked as valid
from balken.model.edits.common import with_
from balken.model.edits.roofs import set_roof
from balken.model.names import HostName
from balken.model.project import Project, level
from balken.progress import Tell, unheard
from balken.units import INCH
from balken.works.building import Checked, work_out
from balken.works.costs import carbon_of, cost_of, volumes_of
from balken.works.told_sizes import sizes_told

DEEPER: Final = {"us": INCH / 2, "metric": 10.0}
"""So much more depth is asked for, mm."""


class Variant(NamedTuple):
    """A way the whole building could be."""

    words: str
    change: Callable[[Project], Project]


class Outcome(NamedTuple):
    """What a building comes to when all of it is sized."""

    words: str
    cost: float
    """Of all that is bought by length, in the money of the price list."""
    timber: float
    """mm³."""
    concrete: float
    """mm³."""
    pieces: int
    over: int
    """Findings of what is used over 1.00."""
    carbon: float
    """Embodied, kg, by the factors that were typed; nothing where none was."""
    project: Project


def variants_of(checked: Checked) -> tuple[Variant, ...]:
    """The questions people ask next, of a building that was worked out."""
    return tuple(_asked(checked))


def _asked(checked: Checked) -> Iterator[Variant]:
    rows = {h: s for h, s in checked.sizes.items() if s.task is not None}
    for step, words in ((-1, "joists and rafters one spacing closer"), (1, "one spacing farther")):
        if any(_next_gap(s, step) for s in rows.values()):
            yield Variant(words, partial(_spaced, rows=rows, step=step))
    if any(_next_section(s) for s in rows.values()):
        yield Variant("one size deeper", partial(_deeper, rows=rows))
    for step, words in ((1, "wood one grade better"), (-1, "wood one grade plainer")):
        yield Variant(words, partial(_graded, step=step))
    more = DEEPER[checked.project.system]
    by = "1/2 in" if checked.project.system == "us" else "10 mm"
    if checked.project.floors:
        yield Variant(f"{by} more depth for every floor", partial(_raised, by=more))


def _next_gap(sized: Sized, step: int) -> float | None:
    """The spacing after the one chosen, closer (-1) or farther (1); None where there is none."""
    assert sized.task is not None
    now = sized.size.spacing
    gaps = sorted(g for g in sized.task.gaps if (g - now) * step > 0.5)
    return (gaps[0] if step > 0 else gaps[-1]) if gaps else None


def _next_section(sized: Sized) -> str | None:
    """The next deeper section that may be chosen; None where there is none."""
    assert sized.task is not None
    offers = {s.name: s.depth for s in sized.task.offers}
    now = offers.get(sized.size.section, 0.0)
    deeper = sorted((d, n) for n, d in offers.items() if d > now + 1.0)
    return deeper[0][1] if deeper else None


def _hold(project: Project, host: HostName, **size: object) -> Project:
    edit = set_floor if host.kind == "floor" else set_roof
    return edit(project, host.key, **size)


def _spaced(project: Project, rows: dict[HostName, Sized], step: int) -> Project:
    for host, sized in rows.items():
        gap = _next_gap(sized, step)
        if gap is not None:
            project = _hold(project, host, spacing=gap)
    return project


def _deeper(project: Project, rows: dict[HostName, Sized]) -> Project:
    for host, sized in rows.items():
        section = _next_section(sized)
        if section is not None:
            project = _hold(project, host, section=section)
    return project


def _graded(project: Project, step: int) -> Project:
    """All sawn wood one grade better or plainer, where its species has one."""
    grades = GRADES_OF[project.code]

    def other(species: str, grade: str) -> str:
        # Only what is sold at the length of joists: studs and utility grades stand aside.
        order = sorted((g for g in grades.get(species, ()) if g in PRICE_FACTOR), key=_price)
        if grade not in order:
            return grade
        return order[min(len(order) - 1, max(0, order.index(grade) + step))]

    for body in project.build_ups:
        better = other(body.species, body.grade)
        project = valid(project, build_ups=with_(project.build_ups, body.id, grade=better))
    for roof in project.roofs:
        project = set_roof(project, roof.id, grade=other(roof.species, roof.grade))
    return project


def _price(grade: str) -> float:
    return PRICE_FACTOR[grade]


def _raised(project: Project, by: float) -> Project:
    """The levels of all floors over walls a little higher, so that their joists have more depth."""
    keys = dict.fromkeys(f.level for f in project.floors if f.level != f.bears_on)
    for key in keys:
        project = move_level(project, key, level(project, key).elevation + by)
    return project


def outcome(words: str, project: Project) -> Outcome:
    """Size a whole building, and add up what it comes to."""
    whole = size_whole(project, sizes_told(work_out(project)))
    checked = work_out(whole.project)
    members = checked.structure.members
    amounts = volumes_of(checked)
    return Outcome(
        words,
        cost_of(members, project.system, project.products),
        amounts.timber,
        amounts.concrete,
        sum(1 for m in members if not m.kind.concrete),
        sum(f.kind == "over" for f in findings(checked)),
        carbon_of(amounts, project.site.carbon),
        whole.project,
    )


def compare(
    checked: Checked, tell: Tell = unheard, variants: Sequence[Variant] | None = None
) -> tuple[Outcome, ...]:
    """The building as it is, then each variant, all sized anew.

    Args:
        checked: the building.
        tell: told which is worked out; what it raises ends the work.
        variants: other questions than those people ask next.
    """
    asked = variants_of(checked) if variants is None else tuple(variants)
    tell(f"Variant 0 of {len(asked)}: as it is …")
    found = [outcome("as it is", checked.project)]
    for n, variant in enumerate(asked, 1):
        tell(f"Variant {n} of {len(asked)}: {variant.words} …")
        try:
            found.append(outcome(variant.words, variant.change(checked.project)))
        except BalkenError:
            continue  # it cannot be built so
    return tuple(found)
