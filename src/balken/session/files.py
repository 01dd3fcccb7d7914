"""Files: opening, saving, issuing, and what a killed program left behind."""

from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path

from balken.exchange.files import FileConflict, FileError, write_atomic
from balken.exchange.ifc_writer import Schema
from balken.exchange.native import SUFFIX, load, to_text
from balken.model.kept import begun_from, template_of
from balken.model.new import empty_building
from balken.model.project import Project
from balken.progress import Tell
from balken.session.building import Building, open_building, with_suffix
from balken.session.desk import Desk, page
from balken.session.faults import Fault, report_of
from balken.session.journal import Left, forget, is_open_elsewhere, left_for, left_without_file
from balken.session.others import lay_under, read_heights
from balken.session.recent import remember

OPENED = f"Projects and architects’ files (*{SUFFIX} *.ifc);;All files (*)"
"""The kinds of files that can be opened, as the file dialog wants them."""


def words_of_left(left: Left) -> str:
    """What a killed program left behind, in words."""
    when = datetime.fromisoformat(left.last).strftime("%Y-%m-%d %H:%M")
    edits = "1 edit" if left.edits == 1 else f"{left.edits} edits"
    return f"There is unsaved work on “{left.head.name}”: {edits}, the last of {when}."


def show_building(desk: Desk, building: Building) -> None:
    """Show another building, with what there is to say of its file."""
    from balken.exchange.ifc_in import other_buildings

    desk.show_building(building)
    came_from = building.path or building.source
    if came_from is not None:
        remember(came_from)
    others = other_buildings(building.project)
    if others and building.source:
        offer_buildings(desk, building.source, others)
    if building.project.notes:
        desk.select(page("unread"))
        desk.say(
            f"{len(building.project.notes)} things of the architect’s file did not come in;"
            " the slip lists them."
        )
    else:
        desk.say("")
    offer_recovery(desk)


def save(desk: Desk) -> bool:
    """Save; ask for a name where there is none. Return whether it was saved."""
    if desk.building.path is None:
        return save_as(desk)
    return save_to(desk, desk.building.path)


def save_as(desk: Desk) -> bool:
    """Ask for a name and save. A file that the dialog did not ask about, since the ending is
    added to its name, is not written over unasked."""
    start = str(desk.building.path or Path.home() / f"{desk.project.name}{SUFFIX}")
    path = desk.face.file_to_write("Save the project", start, f"Projects (*{SUFFIX})")
    return path is not None and save_to(desk, path, over=with_suffix(path) == path)


def save_to(desk: Desk, path: Path, *, over: bool = False) -> bool:
    """Save to a path; what goes wrong is said. Return whether it was saved."""
    try:
        target = desk.building.save(path, over=over)
    except FileConflict as conflict:
        answers: list[tuple[str, Callable[[], object]]] = [
            ("Write over it", partial(save_to, desk, path, over=True)),
            ("Save as …", partial(save_as, desk)),
            ("Leave it", lambda: None),
        ]
        desk.ask(str(conflict), answers)
        return False
    except FileError as error:
        desk.say(str(error))
        return False
    remember(target)
    desk.refresh()
    desk.say(f"Saved as {target}.")
    return True


def ask_for_file(desk: Desk) -> None:
    """Ask for a file and open it."""
    path = desk.face.file_to_open("Open", OPENED)
    if path:
        leave(desk, partial(open_path, desk, path))


def open_path(desk: Desk, path: Path, building: str = "") -> None:
    """Open a file apart from the window, which stays as it is until the file has been read
    whole."""
    desk.say(f"Reading {path.name} …  Esc leaves it.")
    desk.under_way = desk.face.apart_telling(
        lambda tell: open_building(path, building, with_way_out(tell)),
        partial(show_building, desk),
        desk.say,
    )


def with_way_out(tell: Tell) -> Tell:
    """Tells how far work is, and how to leave it."""
    return lambda words: tell(f"{words}  Esc leaves it.")


def open_any(desk: Desk, path: Path) -> None:
    """Take a file that was dropped on the window, or chosen from those open lately, by what it is:
    a project or an architect's file is opened, a drawing laid under, heights read."""
    kind = path.suffix.lower()
    if kind == ".dxf":
        lay_under(desk, path)
    elif kind in (".csv", ".txt"):
        read_heights(desk, path)
    elif kind in (SUFFIX, ".ifc"):
        leave(desk, partial(open_path, desk, path))
    else:
        desk.say(
            f"{path.name} is nothing that is read here: drop a project (*{SUFFIX}), an architect’s"
            " file (*.ifc), a drawing (*.dxf) or heights (*.csv)."
        )


def offer_buildings(desk: Desk, path: Path, others: tuple[str, ...]) -> None:
    """Say that a file holds other buildings too, and offer to read one of them instead."""
    answers: list[tuple[str, Callable[[], object]]] = [
        (name[:24], partial(open_path, desk, path, name)) for name in others[:4]
    ]
    text = f"{path.name} holds {len(others) + 1} buildings; this is {desk.project.name}."
    desk.ask(text, [*answers, ("Stay with it", lambda: None)])


def open_demo(desk: Desk) -> None:
    """Open the demo building."""
    from balken.session.demo import shown_demo

    leave(desk, partial(_open_made, desk, shown_demo))


def new_building(desk: Desk) -> None:
    """Begin an empty building in the units of the one at hand."""
    leave(desk, partial(_open_made, desk, partial(empty_building, "New building", desk.system)))


def save_template(desk: Desk) -> None:
    """Ask for a name and save what another building can begin with: levels, build-ups, products, prices,
    paper and title block."""
    start = str(Path.home() / f"template{SUFFIX}")
    path = desk.face.file_to_write("Save a template", start, f"Projects (*{SUFFIX})")
    if path is None:
        return
    target = with_suffix(path)
    if desk.building.path is not None and target.exists() and target.samefile(desk.building.path):
        desk.say(f"{target} is this building itself; give the template another name.")
        return
    try:
        write_atomic(target, to_text(template_of(desk.project)))
    except FileError as error:
        desk.say(str(error))
        return
    desk.say(f"Saved as a template: {target}.")


def new_from_template(desk: Desk) -> None:
    """Ask for a template, or any project, and begin a building with what it has beside its structure."""
    path = desk.face.file_to_open("Begin with a template", f"Projects (*{SUFFIX})")
    if path is not None:
        leave(desk, partial(_open_made, desk, lambda: begun_from(load(path), "New building")))


def open_ferry_hall(desk: Desk) -> None:
    """Open the second demo building."""
    from balken.session.ferry_hall import ferry_hall

    leave(desk, partial(_open_made, desk, ferry_hall))


def _open_made(desk: Desk, make: Callable[[], Project]) -> None:
    """Open a building that is made by the program, apart from the window."""
    desk.say("Working it out …  Esc leaves it.")
    desk.under_way = desk.face.apart(
        lambda: Building(make()), partial(show_building, desk), desk.say
    )


def offer_recovery(desk: Desk) -> None:
    """Offer what a killed program left behind: of this building's own file, or of one that was
    never saved. What is not answered stays where it is."""
    building = desk.building
    if building.path is not None:
        if is_open_elsewhere(building.path):
            desk.say(f"{building.path.name} is open in another window too, which has unsaved work.")
        mine = [x for x in left_for(building.path) if x.project != building.project]
        if mine:
            _offer(desk, mine[-1])
    elif not building.source and not building.history.done and desk.tells_of_unsaved:
        never = left_without_file()
        if never:
            _offer_other(desk, never[-1])


def _offer(desk: Desk, left: Left) -> None:
    other = desk.building.identity != left.head.identity
    if other:  # another project was put in the place of the file it belongs to
        _offer_other(desk, left)
        return

    def take() -> None:
        if desk.edit("take unsaved work", lambda _: left.project):
            forget(left)

    changed = "" if left.head.stands == desk.building.stands else " Its file was changed since."
    desk.ask(
        f"{words_of_left(left)} It belongs to {left.head.file}.{changed}",
        [("Take it", take), ("Drop it", partial(forget, left)), ("Later", lambda: None)],
    )


def _offer_other(desk: Desk, left: Left) -> None:
    """Offer to open unsaved work as a building of its own."""

    def take() -> None:
        building = Building(left.project, identity=left.head.identity)
        try:
            building.take_up(left)
        except FileError as error:
            desk.say(str(error))
            return
        show_building(desk, building)

    where = f"It was begun from {left.head.file}." if left.head.file else "It was never saved."
    answers: list[tuple[str, Callable[[], object]]] = [
        ("Open it", partial(leave, desk, take)),
        ("Drop it", partial(forget, left)),
        ("Later", lambda: None),
    ]
    desk.ask(f"{words_of_left(left)} {where}", answers)


def save_report(desk: Desk, fault: Fault) -> None:
    """Ask for a name and save what is known of something that went wrong inside the program."""
    start = str(Path.home() / "balken-report.txt")
    path = desk.face.file_to_write("Save the report", start, "Text (*.txt)")
    if path is None:
        return
    try:
        write_atomic(path, report_of(fault, desk.project).encode())
    except FileError as error:
        desk.say(str(error))
        return
    desk.say(f"Saved as {path}.")


def ask_where_to_issue(desk: Desk) -> None:
    """Ask for a folder and write everything into it."""
    path = desk.face.folder("Folder for sheets, lists and structure")
    if path:
        issue_to(desk, path)


def ask_where_to_write(desk: Desk, part: str, schema: Schema = "IFC4") -> None:
    """Ask for a folder and write one part of a set into it."""
    path = desk.face.folder("Folder to write into")
    if path:
        issue_to(desk, path, (part,), schema)


def issue_to(desk: Desk, folder: Path, only: tuple[str, ...] = (), schema: Schema = "IFC4") -> None:
    """Write sheets, cutting list, structure and project, or some of that, into a folder, apart from the
    window."""
    from balken.exchange.issue import issue

    now = datetime.now()
    desk.say(f"Writing into {folder} …  Esc leaves it.")
    checked, found = desk.checked, desk.building.findings
    desk.under_way = desk.face.apart_telling(
        lambda tell: issue(
            checked,
            found,
            folder,
            date=now.strftime("%Y-%m-%d"),
            when=now.strftime("%Y-%m-%dT%H:%M:%S"),
            tell=with_way_out(tell),
            only=only,
            schema=schema,
        ),
        lambda files: desk.say(f"Written: {', '.join(f.name for f in files)}."),
        desk.say,
    )


def leave(desk: Desk, go: Callable[[], object]) -> None:
    """Ask about unsaved work before leaving a building."""
    if not desk.building.worth_keeping:
        desk.building.forget_journal()
        go()
        return

    def drop() -> None:
        desk.building.forget_journal()
        go()

    def keep() -> None:
        if save(desk):
            go()

    answers: list[tuple[str, Callable[[], object]]] = [
        ("Save and go on", keep),
        ("Leave it", drop),
    ]
    desk.ask(f"{desk.project.name} is not saved.", [*answers, ("Stay", lambda: None)])
