"""How a tool asks. A tool is a generator: it yields an :class:`Ask` and is sent the
:class:`Answer`, or yields a :class:`Do` and is sent whether the edit was made. :class:`ToolRun`
holds one tool with what is typed so far; the window only hands it places and keys, so every tool
can be driven by a test without a window.
"""

import math
from collections.abc import Callable, Generator, Sequence
from typing import Any, Final, Literal, Protocol, TypeVar

import msgspec

from balken.drawing.marks import Drawing, Stroke, rectangle
from balken.errors import BalkenError
from balken.geometry.plane import EXACT, Point, add, distance, dot, sub, unit
from balken.model.beams import BeamSet
from balken.model.drawn_loads import Case, Shape
from balken.model.edits.walls import WallKind
from balken.model.floors import Rule
from balken.model.foundations import Chosen, FoundationKind
from balken.model.names import HostKind, Name, ThingKind, ThingName, keys_of, kind_of, things_of
from balken.model.project import Project
from balken.model.walls import PlacedBy
from balken.session.snapping import Snap, SnapField, axes, snap
from balken.units import format_length, parse_angle, parse_length

Change = Callable[[Project], Project]
Reader = Callable[[Point, Sequence[float]], Point]
"""Makes a place of the pointer and of what was typed."""
ANGLES: Final = ("angle", "turn")
"""Fields that hold degrees; all others hold lengths."""
_NUMBERS: Final = "0123456789.'\"/-+ mcftin,"


class Ask(msgspec.Struct, frozen=True):
    """What a tool wants next.

    ``place`` wants a place: a click, or typed numbers; ``thing`` the name of what is clicked;
    ``text`` words and Enter.
    """

    words: str
    kind: Literal["place", "thing", "text"] = "place"
    anchor: Point | None = None
    """Lengths and angles are measured from here."""
    ghost: Callable[[Point], Drawing] = lambda _: ()
    """What there would be for a place of the pointer."""
    fields: tuple[str, ...] = ()
    """What can be typed, Tab between: ``length``, ``angle``; where empty, x and y from the origin
    or length and angle."""
    read: Reader | None = None
    ends: bool = False
    """Enter with nothing typed ends this part of the work."""
    first: str = ""
    """Words that stand there already."""
    step: Callable[[float], float] | None = None
    things: tuple[str, ...] = ()
    """Kinds of things that may be clicked: ``wall``, ``opening``, ``grid``, ``support``; empty for
    all."""
    free: bool = False
    """Nothing is caught."""
    check: Callable[[str], object] | None = None
    """Reads words; what it refuses is said, and asked for again."""
    catch: Callable[[Point], Point] | None = None
    """Catches the pointer in its own way."""


class Answer(msgspec.Struct, frozen=True):
    """What came of it."""

    point: Point = (0.0, 0.0)
    key: Name | None = None
    """The thing that lies there."""
    text: str = ""
    finished: bool = False


class Do(msgspec.Struct, frozen=True):
    """An edit to be made, with its words for undo."""

    words: str
    change: Change


class Pick(msgspec.Struct, frozen=True):
    """Names that are to be selected now."""

    keys: tuple[Name, ...]


_T = TypeVar("_T")
Steps = Generator[Ask | Do | Pick, Answer | bool, _T]
"""Part of a tool, with what it brings back."""
Tool = Steps[None]


def ask(words: str, **fields: Any) -> Steps[Answer]:
    """Ask, and return the answer; the fields are those of :class:`Ask`."""
    answer = yield Ask(words, **fields)
    assert isinstance(answer, Answer), "a question is sent its answer"
    return answer


def around_place(p: Point, size: tuple[float, float]) -> tuple[Point, ...]:
    """The corners of a box of a size with its middle at a place."""
    x, y = size[0] / 2, size[1] / 2
    return rectangle(p[0] - x, p[1] - y, p[0] + x, p[1] + y)


def clicked(answer: Answer, kind: HostKind) -> str:
    """The key of the record that was clicked, where only such things could be."""
    return keys_of([answer.key] if answer.key else [], kind)[0]


def clicked_thing(answer: Answer, kind: ThingKind) -> ThingName:
    """The thing that was clicked, where only such things could be."""
    return things_of([answer.key] if answer.key else [], kind)[0]


def two_places(first: str, second: str) -> Steps[tuple[Point, Point] | None]:
    """Ask for two places with a line between them; None where the first question is ended."""
    begin = yield from ask(first, ends=True)
    if begin.finished:
        return None
    a = begin.point

    def ghost(p: Point) -> Drawing:
        return (Stroke((a, p), "mark"),)

    end = yield from ask(second, anchor=a, ghost=ghost)
    return a, end.point


class Kit(msgspec.Struct, frozen=True):
    """What tools remember: how walls, openings and supports are made until told otherwise."""

    build_up: str = ""
    thickness: float = 0.0
    by: PlacedBy = "outer face"
    outside: Literal["left", "right"] = "right"
    shape: str = "chain"
    opening: Literal["door", "window", "opening"] = "window"
    unit: tuple[float, float] = (0.0, 0.0)
    sill: float | None = None
    support: Literal["post", "pad", "pier"] = "post"
    where: str = "every crossing"
    taking: bool = False
    size: tuple[float, float] | None = None
    round: bool = False
    levels: tuple[str, str] = ("", "")
    """The levels posts, pads and piers stand between; empty for the usual ones."""
    pad_too: bool = False
    """Whether posts and piers get a pad under each."""
    foundation: FoundationKind = "strip"
    chosen: tuple[tuple[FoundationKind, Chosen], ...] = ()
    """The parts chosen for each kind of foundation."""
    along: str = "round the storey"
    face: float = 0.0
    """How far a foundation's outer face stands out of the wall's, mm."""
    found_top: str = ""
    found_base: str = ""
    found_slab: str = ""
    floor_from: str = "this room"
    floor_build_up: str = ""
    """Of new floors; the first there is where empty."""
    edge: float = 0.0
    """How far a new floor reaches past its walls, mm."""
    hole: Literal["stair", "shaft", "chimney", "atrium"] = "stair"
    hole_size: tuple[float, float] = (0.0, 0.0)
    """Length and width of an opening in a floor; drawn by two corners where nothing."""
    roof_from: str = "all walls here"
    skylight: tuple[float, float] = (550.0, 980.0)
    """Across and up the slope, mm."""
    load_shape: Shape = "point"
    load_case: Case = "live"
    load_amount: float = 0.0
    """Of new loads, N, N/mm or N/mm²; a usual one where nothing."""
    beam_from: str = "two places"
    beam_set: BeamSet = "under"
    beam_section: str = ""
    """Of new beams; by calculation where empty."""
    bay_rule: Rule = "maximum"
    bay_spacing: float = 0.0
    """In bays; a usual one where nothing, mm."""
    bay_count: int = 3
    bay_along: int = 0
    bay_begin: float = 0.0
    bay_alternate: bool = False


class Bench(Protocol):
    """Where a tool works: the project as it is now, the levels of the plan, what is selected, and
    its kit."""

    @property
    def project(self) -> Project:
        """The project as it is now."""

    @property
    def base(self) -> str:
        """The level new walls stand on."""

    @property
    def top(self) -> str:
        """The level new walls reach."""

    @property
    def kit(self) -> Kit:
        """How what is placed is made."""

    @property
    def chosen(self) -> tuple[Name, ...]:
        """What is selected."""

    @property
    def floor_level(self) -> str:
        """The level whose floor is made here: that of the tier, else the next over the storey."""

    @property
    def load_level(self) -> str:
        """The level that loads are drawn on here; empty where there is none."""

    @property
    def view_key(self) -> str:
        """The lasting name of the plan that is shown, on sheets too; empty where none is."""

    def thing_at(self, p: Point, kinds: tuple[str, ...] = ()) -> Name | None:
        """The name of what lies at a place; None where nothing does."""


def wall_kind(bench: Bench) -> WallKind:
    """How new walls are made on a bench."""
    kit = bench.kit
    return WallKind(
        bench.base,
        bench.top,
        build_up=kit.build_up,
        thickness=kit.thickness,
        by=kit.by,
        outside=kit.outside,
    )


class ToolRun:
    """One tool at work: the question it asks now, where the pointer is, what is typed, which
    direction is locked."""

    def __init__(
        self,
        tool: Tool,
        bench: Bench,
        edit: Callable[[str, Change], bool],
        say: Callable[[str], object],
        select: Callable[[tuple[Name, ...]], object] = lambda _: None,
    ) -> None:
        self._tool, self._bench, self._edit, self._say, self._select = (
            tool,
            bench,
            edit,
            say,
            select,
        )
        self.ask: Ask | None = None
        self.pointer: Point = (0.0, 0.0)
        self.caught = Snap((0.0, 0.0))
        self.typed: list[str] = [""]
        self.field = 0
        self.lock: Point | None = None
        self._go(None)

    # -- the course of the tool -----------------------------------------------

    def _go(self, answer: Answer | bool | None) -> None:
        """Hand an answer over, make the edits that follow, and stop at the next question."""
        try:
            item = next(self._tool) if answer is None else self._tool.send(answer)
            while not isinstance(item, Ask):
                if isinstance(item, Pick):
                    self._select(item.keys)
                    item = self._tool.send(True)
                else:
                    item = self._tool.send(self._edit(item.words, item.change))
        except StopIteration:
            self.ask = None
            return
        except BalkenError as error:
            self._say(str(error))
            self.ask = None
            return
        self.ask = item
        self.typed = [item.first] if item.kind == "text" else [""] * len(self.fields)
        self.field, self.lock = 0, None

    @property
    def fields(self) -> tuple[str, ...]:
        """What can be typed now."""
        ask = self.ask
        if ask is None:
            return ()
        return ask.fields or (("length", "angle") if ask.anchor is not None else ("x", "y"))

    @property
    def done(self) -> bool:
        """Whether the tool asks for nothing any more."""
        return self.ask is None

    def leave(self) -> None:
        """Leave the tool; edits made so far stay."""
        self._tool.close()
        self.ask = None

    # -- the pointer ----------------------------------------------------------

    def move(self, p: Point, field: SnapField | None = None, reach: float = 0.0) -> None:
        """Say where the pointer is."""
        self.pointer = p
        ask = self.ask
        if ask is None or ask.kind == "text":
            return
        if ask.catch is not None:
            self.caught = Snap(ask.catch(p))
        elif field is None or ask.free or ask.kind == "thing":
            self.caught = Snap(p)
        else:
            self.caught = snap(field, p, reach, ask.anchor, self.lock, ask.step)

    def place(self) -> Point:
        """The place that would be taken now: by what is typed, else by the pointer."""
        ask = self.ask
        if ask is None:
            return self.pointer
        numbers = self._numbers()
        if numbers is None:
            return self.caught.point
        return self._read(ask, numbers)

    def _read(self, ask: Ask, numbers: Sequence[float]) -> Point:
        if ask.read is not None:
            return ask.read(self.caught.point, numbers)
        if ask.anchor is None:
            return (numbers[0], numbers[1] if len(numbers) > 1 else self.caught.point[1])
        if self.fields == ("length", "angle"):
            way = self._way(ask.anchor)
            if len(numbers) > 1:
                way = (math.cos(math.radians(numbers[1])), math.sin(math.radians(numbers[1])))
            return add(ask.anchor, way, numbers[0])
        return add(ask.anchor, (numbers[0], numbers[1] if len(numbers) > 1 else 0.0))

    def _way(self, anchor: Point) -> Point:
        if self.lock is not None:
            # A locked line runs to the side the pointer is on.
            return self.lock
        away = sub(self.caught.point, anchor)
        return unit(away) if math.hypot(*away) > EXACT else (1.0, 0.0)

    def _numbers(self) -> list[float] | None:
        """What is typed as numbers; None where nothing is, or it cannot be read yet."""
        if self.ask is None or self.ask.kind == "text" or not any(self.typed):
            return None
        try:
            return self._parse()
        except BalkenError:
            return None

    def _parse(self) -> list[float]:
        found = []
        for name, text in zip(self.fields, self.typed):
            if not text.strip():
                if name == self.fields[0]:
                    found.append(self._length_now())
                continue
            if name in ANGLES:
                found.append(parse_angle(text))
            else:
                found.append(parse_length(text, self._bench.project.system, negative=True))
        return found

    def _length_now(self) -> float:
        anchor = self.ask.anchor if self.ask else None
        return distance(anchor, self.caught.point) if anchor is not None else self.caught.point[0]

    # -- hands ----------------------------------------------------------------

    def click(self, p: Point, field: SnapField | None = None, reach: float = 0.0) -> None:
        """Answer with a place, or with the thing that lies there."""
        self.move(p, field, reach)
        ask = self.ask
        if ask is None or ask.kind == "text":
            return
        key = self._bench.thing_at(p, ask.things)
        if ask.kind == "thing":
            if key is None or (ask.things and kind_of(key) not in ask.things):
                wanted = " or ".join(ask.things) or "thing"
                self._say(f"Nothing there is a {wanted}. {ask.words}")
                return
            self._go(Answer(p, key))
            return
        self._go(Answer(self.place(), key))

    def key(self, name: str, text: str = "") -> bool:
        """Take a key: ``enter``, ``tab``, ``back``, ``left`` …, or the text of a letter. Return
        whether it was used."""
        ask = self.ask
        if ask is None:
            return False
        if name == "enter":
            return self._enter()
        if name == "tab":
            self.field = (self.field + 1) % max(1, len(self.typed))
            return True
        if name == "back":
            self.typed[self.field] = self.typed[self.field][:-1]
            return True
        if (
            name in ("left", "right", "up", "down")
            and ask.kind == "place"
            and ask.anchor is not None
        ):
            ahead, left, back, right = axes(self._turn)
            way = {"right": ahead, "up": left, "left": back, "down": right}[name]
            self.lock = None if self.lock is not None and dot(self.lock, way) > 0.99 else way
            self.caught = Snap(
                add(ask.anchor, way, max(0.0, dot(sub(self.caught.point, ask.anchor), way)))
            )
            return True
        if text and (ask.kind == "text" or text in _NUMBERS or (text == "°")):
            if ask.kind == "place" and text == "," and len(self.typed) > 1:
                self.field = min(self.field + 1, len(self.typed) - 1)
                return True
            if ask.kind == "place" and not any(self.typed) and text in " mcftin":
                return False  # letters that begin nothing are commands
            if ask.kind == "thing":
                return False
            self.typed[self.field] += text
            return True
        return False

    _turn = 0.0

    def lie(self, turn: float) -> None:
        """Say how the building lies, so that arrows lock its own directions; radians."""
        self._turn = turn

    def _enter(self) -> bool:
        ask = self.ask
        assert ask is not None
        if ask.kind == "text":
            text = self.typed[0].strip()
            if text and ask.check is not None:
                try:
                    ask.check(text)
                except BalkenError as error:
                    self._say(str(error))
                    return True
            self._go(Answer(text=text, finished=not text))
            return True
        if not any(t.strip() for t in self.typed):
            if ask.ends:
                self._go(Answer(self.caught.point, finished=True))
                return True
            return False
        try:
            numbers = self._parse()
        except BalkenError as error:
            self._say(str(error))
            return True
        self._go(Answer(self._read(ask, numbers), self._bench.thing_at(self.pointer, ask.things)))
        return True

    # -- what is shown --------------------------------------------------------

    def ghost(self) -> Drawing:
        """What there would be."""
        if self.ask is None or self.ask.kind == "text":
            return ()
        try:
            return self.ask.ghost(self.place())
        except BalkenError:
            return ()

    def readout(self) -> str:
        """What stands beside the pointer: what is typed, else length and angle, and what was
        caught."""
        ask = self.ask
        if ask is None:
            return ""
        if ask.kind == "text":
            return f"{self.typed[0]}|"
        if any(self.typed):
            cells = [
                f"{n} {t}{'|' if i == self.field else ''}"
                for i, (n, t) in enumerate(zip(self.fields, self.typed))
            ]
            return "   ".join(c for i, c in enumerate(cells) if self.typed[i] or i == self.field)
        if ask.kind == "thing":
            return ""
        word = f"  {self.caught.word}" if self.caught.word else ""
        if ask.anchor is None:
            return word.strip()
        away = sub(self.place(), ask.anchor)
        angle = math.degrees(math.atan2(away[1], away[0]))
        lock = " locked" if self.lock is not None else ""
        return f"{format_length(math.hypot(*away), self._bench.project.system)}  {angle:.0f}°{lock}{word}"
