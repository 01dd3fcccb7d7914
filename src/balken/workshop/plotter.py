"""A simulated plotter of one colour: it reads a PDF of sheets and tells what paper would lose: lines too
thin, greys too light, what lies outside the margins it can print, words too small. It reads the operators of
PDF 1.7 (ISO 32000-1, 8 and 9) that drawings are made of."""

import base64
import re
import zlib
from collections.abc import Callable, Iterator
from typing import Final, NamedTuple

POINT: Final = 25.4 / 72
"""mm."""
THINNEST: Final = 0.09
"""A thinner line breaks up, mm."""
LIGHTEST: Final = 0.75
"""A lighter line or word is not printed; 1 is white."""
MARGIN: Final = 4.0
"""Along the rim nothing is printed, mm."""
SMALLEST: Final = 2.2
"""Capitals that are lower cannot be read at half size, mm (ISO 3098-1 begins with 1.8)."""
CAPITALS: Final = 0.7
"""Height of capitals over the size of the font."""
CHUNK: Final = 2_000_000
"""No page has more bytes of operators."""


Lose = Callable[[str, float], None]
"""Tells of a loss: what, and how much is there."""


class Loss(NamedTuple):
    """What a page would lose."""

    page: int
    what: str
    worst: float
    """mm, or a grey."""
    times: int


class Plotted(NamedTuple):
    """A PDF as it was read."""

    pages: tuple[tuple[float, float], ...]
    """Width and height of each, mm."""
    losses: tuple[Loss, ...]


def plot(data: bytes) -> Plotted:
    """Read a PDF and tell what would be lost.

    Raises:
        ValueError: it is no PDF that can be read here.
    """
    if not data.startswith(b"%PDF-"):
        raise ValueError("That is no PDF.")
    objects = _objects(data)
    sizes, losses = [], []
    for n, page in enumerate(_pages(objects), 1):
        box = re.search(rb"/MediaBox\s*\[\s*([\d. ]+)\]", page)
        contents = re.search(rb"/Contents\s+(\d+)\s+0\s+R", page)
        if box is None or contents is None:
            raise ValueError(f"Page {n} has no size or nothing on it.")
        _, _, width, height = (float(x) for x in box.group(1).split())
        sizes.append((width * POINT, height * POINT))
        stream = _stream(objects[int(contents.group(1))])
        losses += _read(stream, n, (width * POINT, height * POINT))
    return Plotted(tuple(sizes), tuple(losses))


def _objects(data: bytes) -> dict[int, bytes]:
    found = re.finditer(rb"(\d+)\s+0\s+obj(.*?)endobj", data, re.DOTALL)
    return {int(m.group(1)): m.group(2) for m in found}


def _pages(objects: dict[int, bytes]) -> Iterator[bytes]:
    """The pages in their order, from the root of the tree down."""
    tree = next((o for o in objects.values() if b"/Kids" in o and b"/Parent" not in o), b"")
    yield from _kids(objects, tree, 0)


def _kids(objects: dict[int, bytes], node: bytes, depth: int) -> Iterator[bytes]:
    kids = re.search(rb"/Kids\s*\[(.*?)\]", node, re.DOTALL)
    if kids is None or depth > 20:
        return
    for ref in re.findall(rb"(\d+)\s+0\s+R", kids.group(1)):
        child = objects.get(int(ref), b"")
        if b"/Kids" in child:
            yield from _kids(objects, child, depth + 1)
        else:
            yield child


def _stream(obj: bytes) -> bytes:
    """The operators of a page."""
    begins = re.search(rb"stream\r?\n", obj)
    length = re.search(rb"/Length\s+(\d+)(?!\s+\d+\s+R)", obj)
    if begins is None:
        raise ValueError("A page has no operators.")
    # By its length, where that is told: the last byte of what is packed may be a line end.
    stops = begins.end() + int(length.group(1)) if length else obj.rfind(b"endstream")
    raw = obj[begins.end() : stops]
    if b"ASCII85" in obj:
        raw = base64.a85decode(raw.strip().removesuffix(b"~>"))
    return zlib.decompress(raw)[: CHUNK * 20] if b"Flate" in obj else raw


class _State(NamedTuple):
    """What holds while operators are read."""

    matrix: tuple[float, float, float, float, float, float] = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
    width: float = 1.0
    ink: float = 0.0
    fill: float = 0.0
    font: float = 0.0

    @property
    def scale(self) -> float:
        """mm to a unit."""
        a, b, *_ = self.matrix
        return float((a * a + b * b) ** 0.5 * POINT)

    def at(self, x: float, y: float) -> tuple[float, float]:
        """A place in mm of the page."""
        a, b, c, d, e, f = self.matrix
        return (a * x + c * y + e) * POINT, (b * x + d * y + f) * POINT


TOKEN: Final = re.compile(
    rb"\((?:\\.|[^\\()])*\)|<[0-9A-Fa-f\s]*>|\[|\]|/[^\s/\[\]()<>]+|[^\s/\[\]()<>]+"
)


def _read(stream: bytes, page: int, size: tuple[float, float]) -> list[Loss]:
    """Go through the operators of a page."""
    found: dict[str, list[float]] = {}
    state, kept, operands = _State(), [], []
    path: list[tuple[float, float]] = []

    def lose(what: str, amount: float) -> None:
        found.setdefault(what, []).append(amount)

    for token in TOKEN.findall(stream):
        word = token.decode("latin-1")
        if _is_operand(word):
            operands.append(word)
            continue
        numbers = [float(x) for x in operands if _is_number(x)]
        if word == "q":
            kept.append(state)
        elif word == "Q" and kept:
            state = kept.pop()
        elif word == "cm" and len(numbers) == 6:
            state = state._replace(matrix=_times(numbers, state.matrix))
        elif word == "w" and numbers:
            state = state._replace(width=numbers[0])
        elif word in ("G", "RG") and numbers:
            state = state._replace(ink=max(numbers))
        elif word in ("g", "rg") and numbers:
            state = state._replace(fill=max(numbers))
        elif word in ("m", "l") and len(numbers) == 2:
            path.append(state.at(*numbers))
        elif word == "re" and len(numbers) == 4:
            x, y, w, h = numbers
            path += [state.at(x, y), state.at(x + w, y + h)]
        elif word in ("S", "s", "B", "b", "f", "f*", "n", "B*", "b*"):
            if word in ("S", "s", "B", "b", "B*", "b*"):
                _stroked(state, path, size, lose)
            path = []
        elif word == "Tf" and numbers:
            state = state._replace(font=numbers[-1])
        elif word in ("Tj", "TJ"):
            _written(state, lose)
        operands = []
    return [
        Loss(page, what, max(amounts) if "light" in what else min(amounts), len(amounts))
        for what, amounts in sorted(found.items())
    ]


def _is_number(word: str) -> bool:
    return re.fullmatch(r"[-+]?\d*\.?\d+", word) is not None


def _is_operand(word: str) -> bool:
    return word[0] in "(</[]" or _is_number(word)


def _times(
    m: list[float], n: tuple[float, float, float, float, float, float]
) -> tuple[float, float, float, float, float, float]:
    """One matrix before another."""
    a, b, c, d, e, f = m
    p, q, r, s, t, u = n
    return (
        a * p + b * r,
        a * q + b * s,
        c * p + d * r,
        c * q + d * s,
        e * p + f * r + t,
        e * q + f * s + u,
    )


def _stroked(
    state: _State, path: list[tuple[float, float]], size: tuple[float, float], lose: Lose
) -> None:
    wide = state.width * state.scale
    if wide < THINNEST:
        lose("lines too thin", wide)
    if state.ink > LIGHTEST:
        lose("lines too light", state.ink)
    for x, y in path:
        inside = min(x, y, size[0] - x, size[1] - y)
        if inside < MARGIN:
            lose("outside the margin", inside)


def _written(state: _State, lose: Lose) -> None:
    capitals = state.font * state.scale * CAPITALS
    if capitals < SMALLEST:
        lose("words too small", capitals)
    if state.fill > LIGHTEST:
        lose("words too light", state.fill)


def told(plotted: Plotted) -> str:
    """What was plotted and lost, in lines."""
    lines = [f"{len(plotted.pages)} pages."]
    for loss in plotted.losses:
        unit = "" if "light" in loss.what else " mm"
        lines.append(f"Page {loss.page}: {loss.what}, {loss.times} times, {loss.worst:.2f}{unit}.")
    if not plotted.losses:
        lines.append("Nothing is lost on a device of one colour.")
    return "\n".join(lines)
