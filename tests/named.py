"""Names as tests write them: ``the("floor:F2/joist:07a")``."""

from typing import Any

from balken.model.names import HOST_KINDS, ThingName, host_name, member_name


def the(text: str) -> Any:
    """The thing that a text names; None for nothing."""
    kind, _, rest = text.partition(":")
    if not text:
        return None
    if kind in HOST_KINDS:
        return member_name(text) if "/" in rest else host_name(text)
    key, _, part = rest.partition("/")
    return ThingName(kind, key, part)  # type: ignore[arg-type]
