"""The structural analysis model of an IFC file: bars on their supports, load cases, and what lies on each bar
in each case."""

import math
from typing import Any, Final, NamedTuple

from balken.exchange.ifc_writer import IfcWriter
from balken.exchange.step_text import Ref
from balken.geometry.plane import EXACT
from balken.geometry.solid import Vector
from balken.model.cases import CASE_NAMES, CASE_WORDS
from balken.works.analysis_model import AnalysisModel, Bar, BarLoad, Held, bars_by_name, between

SOURCE: Final = {
    "dead": ("PERMANENT_G", "DEAD_LOAD_G"),
    "live": ("VARIABLE_Q", "LIVE_LOAD_Q"),
    "roof_live": ("VARIABLE_Q", "LIVE_LOAD_Q"),
    "snow": ("VARIABLE_Q", "SNOW_S"),
    "wind": ("VARIABLE_Q", "WIND_W"),
    "uplift": ("VARIABLE_Q", "WIND_W"),
}
"""How each case acts and where it comes from."""


Ends = tuple[Vector, Vector]
Placed = tuple[Ref, Ref]
"""The building and where it stands."""


def write_analysis(
    w: IfcWriter, model: AnalysisModel, building: Placed, context: Ref, products: dict[str, Ref]
) -> list[tuple[Bar, Ref]]:
    """The analysis model; the bars with what stands for them.

    Args:
        w: the file.
        model: bars, supports and loads.
        building: what the model serves.
        context: of what bars are shown with.
        products: the pieces by their name, each to be tied to its bar.
    """
    if not model.bars:
        return []
    s = Showing(w, building[1], context, {n.number: n.place for n in model.nodes})
    actions: dict[str, list[Ref]] = {}
    members: list[Ref] = []
    found: list[tuple[Bar, Ref]] = []
    for bar, held, loads in bars_by_name(model):
        ends = s.where[bar.nodes[0]], s.where[bar.nodes[-1]]
        line = _edge(s, ends)
        made = _bar(s, bar, ends, line)
        members += [made, *(_support(s, made, h) for h in held)]
        for i, load in enumerate(loads):
            name = f"load {bar.name} {i}"
            acting = (
                _spread(s, name, ends, line, load)
                if load.low < load.high
                else _standing(s, name, ends, load)
            )
            w.relate("IfcRelConnectsStructuralActivity", f"on {name}", made, acting)
            actions.setdefault(load.case, []).append(acting)
        _tie(w, bar, made, products[str(bar.name)])
        found.append((bar, made))
    cases = {case: _case(w, case) for case in CASE_NAMES if case in actions}
    whole = w.root(
        "IfcStructuralAnalysisModel",
        "analysis model",
        Name="Bars on their supports",
        Description="What one bar hands to another stands among the loads of that other.",
        PredefinedType="LOADING_3D",
        LoadedBy=list(cases.values()) or None,
        SharedPlacement=building[1],
    )
    w.relate("IfcRelAssignsToGroup", "in the analysis model", members, None, whole)
    w.relate("IfcRelServicesBuildings", "serves", whole, [building[0]])
    for case, made in cases.items():
        w.relate("IfcRelAssignsToGroup", f"in the case {case}", actions[case], None, made)
    return found


class Showing(NamedTuple):
    """What bars, supports and loads are shown with."""

    w: IfcWriter
    building: Ref
    """Where the building stands."""
    context: Ref
    where: dict[int, Vector]
    """The place of each node."""

    def place(self) -> Ref:
        """Where bars and loads stand: as the building."""
        w = self.w
        return w.shared(("as the building",), lambda: w.place(self.building))

    def topology(self, what: str, made: Ref) -> Ref:
        """An edge or a vertex as the shape of something."""
        f = self.w.f
        shown = f.add("IfcTopologyRepresentation", self.context, "Reference", what, [made])
        return f.add("IfcProductDefinitionShape", None, None, [shown])

    def vertex(self, p: Vector) -> Ref:
        point = self.w.point(*p)
        return self.w.once(("vertex", point), lambda: self.w.f.add("IfcVertexPoint", point))

    def spot(self, p: Vector) -> Ref:
        """One place, as what stands there is shown."""
        vertex = self.vertex(p)
        return self.w.shared(("at", vertex), lambda: self.topology("Vertex", vertex))


def _case(w: IfcWriter, case: str) -> Ref:
    acts, source = SOURCE[case]
    return w.root(
        "IfcStructuralLoadCase" if w.schema == "IFC4" else "IfcStructuralLoadGroup",
        f"load case {case}",
        Name=CASE_WORDS[case],
        PredefinedType="LOAD_CASE",
        ActionType=acts,
        ActionSource=source,
    )


def _bar(s: Showing, bar: Bar, ends: Ends, line: Ref) -> Ref:
    (ax, ay, az), (bx, by, bz) = ends
    upright = abs(bz - az) > STEEP * (abs(bx - ax) + abs(by - ay))
    return s.w.root(
        "IfcStructuralCurveMember",
        f"bar {bar.name}",
        Name=bar.member.mark,
        Description=str(bar.name),
        ObjectPlacement=s.place(),
        Representation=line,
        PredefinedType="RIGID_JOINED_MEMBER",
        Axis=s.w.way(1, 0, 0) if upright else s.w.way(0, 0, 1),
    )


STEEP: Final = 10.0
"""A bar that rises so many times its run is upright: what is up in its section then lies along x."""


def _edge(s: Showing, ends: Ends) -> Ref:
    return s.topology("Edge", s.w.f.add("IfcEdge", *map(s.vertex, ends)))


def _support(s: Showing, bar: Ref, held: Held) -> Ref:
    """A place where a bar is held: along its plan, up, and against leaving it."""
    name = f"support {held.bar} {held.node}"
    made = s.w.root(
        "IfcStructuralPointConnection",
        name,
        Name=held.on or "foot",
        ObjectPlacement=s.place(),
        Representation=s.spot(s.where[held.node]),
        AppliedCondition=_condition(s.w, held),
    )
    s.w.root(
        "IfcRelConnectsStructuralMember",
        f"held at {name}",
        RelatingStructuralMember=bar,
        RelatedStructuralConnection=made,
    )
    return made


def _condition(w: IfcWriter, held: Held) -> Ref:
    def make() -> Ref:
        if w.schema == "IFC2X3":
            # -1 stands for held in IFC2X3.
            values: list[Any] = [-1.0 if held.along else 0.0, -1.0, -1.0 if held.up else 0.0]
            values += [0.0, 0.0, 0.0]
        else:
            holds = (held.along, True, held.up, False, False, False)
            values = [w.f.value("IfcBoolean", x) for x in holds]
        return w.f.add("IfcBoundaryNodeCondition", None, *values)

    return w.once(("held", held.along, held.up), make)


def _spread(s: Showing, name: str, ends: Ends, line: Ref, load: BarLoad) -> Ref:
    """A load along a bar, down; one that lies on a part of it has a place of its own."""
    low, high = between(*ends, load.low), between(*ends, load.high)
    alike = load.low < EXACT and math.dist(high, ends[1]) < AT_END and s.w.schema == "IFC4"
    return s.w.root(
        "IfcStructuralCurveAction" if s.w.schema == "IFC4" else "IfcStructuralLinearAction",
        name,
        ObjectPlacement=s.place(),
        Representation=line if alike else _edge(s, (low, high)),
        AppliedLoad=_force(s.w, "IfcStructuralLoadLinearForce", load.amount * 1e3),
        GlobalOrLocal="GLOBAL_COORDS",
        DestabilizingLoad=False,
        ProjectedOrTrue="TRUE_LENGTH",
        PredefinedType="CONST",
    )


AT_END: Final = 0.01
"""What ends so near to the end of a bar ends there, mm."""


def _standing(s: Showing, name: str, ends: Ends, load: BarLoad) -> Ref:
    """A load at one place of a bar, down."""
    return s.w.root(
        "IfcStructuralPointAction",
        name,
        ObjectPlacement=s.place(),
        Representation=s.spot(between(*ends, load.low)),
        AppliedLoad=_force(s.w, "IfcStructuralLoadSingleForce", load.amount),
        GlobalOrLocal="GLOBAL_COORDS",
        DestabilizingLoad=False,
    )


def _force(w: IfcWriter, entity: str, down: float) -> Ref:
    """A force down, N, or N/m along a bar; alike ones once."""
    amount = round(-down, 6)
    return w.once(
        (entity, amount),
        lambda: w.f.add(entity, None, 0.0, 0.0, amount, 0.0, 0.0, 0.0),
    )


def _tie(w: IfcWriter, bar: Bar, made: Ref, product: Ref) -> None:
    """Tie a bar to the piece that it stands for."""
    if w.schema == "IFC2X3":
        w.relate("IfcRelConnectsStructuralElement", f"is {bar.name}", product, made)
    else:
        w.relate("IfcRelAssignsToProduct", f"is {bar.name}", [made], None, product)
