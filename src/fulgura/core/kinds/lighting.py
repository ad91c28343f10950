"""What lights are led by beside their own values: masters, groups, chases, and how a lamp answers."""

from typing import ClassVar, Literal

from fulgura.core.kinds.parameters import Beats, Number, Points, Ratio, Seconds, SignalRef, param
from fulgura.core.kinds.registry import Kind


class Masters(Kind):
    """What stands over all lamps."""

    family: ClassVar[str] = "masters"


class LightMasters(Masters):
    """What stands over all lamps."""

    title = "All lights"

    grand: Ratio = param(1.0, help="Brightness of all lamps together", title="Grand master")


class Grouping(Kind):
    """What stands over the lamps of a group."""

    family: ClassVar[str] = "group"


class LightGroup(Grouping):
    """What stands over the lamps of a group."""

    title = "Group"

    master: Ratio = param(1.0, help="Brightness of the group’s lamps together")


class Chasing(Kind):
    """What runs over the lamps of a group."""

    family: ClassVar[str] = "chase"


SHAPES = ("fill", "pulse", "rise", "fall", "wave", "sparkle", "random")
WAYS = ("along", "back", "there and back", "from the middle", "mirrored")
DRIVES = ("time", "beats", "hits", "value")
HOWS = ("instead", "highest", "times")


class Chase(Chasing):
    """Runs over the lamps of a group, one after the other."""

    shape: Literal[*SHAPES] = param(  # type: ignore[valid-type]
        "pulse",
        help=(
            "Fill: lamps come on and stay; pulse: on and off; rise, fall: brighter, darker; wave: both;"
            " sparkle: any of them; random: one by chance, each once before one comes again"
        ),
    )
    way: Literal[*WAYS] = param("along", help="In which order of the group; mirrored: from both ends")  # type: ignore[valid-type]
    width: Number = param(1.0, 0.1, 64.0, "How many lamps are on at once")
    driven: Literal[*DRIVES] = param(  # type: ignore[valid-type]
        "time",
        help="What moves it on; value: its progress is a fader’s or a signal’s",
        group="Driven by",
        title="By",
    )
    seconds: Seconds = param(
        1.0,
        0.05,
        60.0,
        "From the first lamp to the last",
        group="Driven by",
        title="Across in",
        when=("driven", "time"),
    )
    beats: Beats = param(
        4.0,
        0.25,
        64.0,
        "From the first lamp to the last",
        group="Driven by",
        title="Across in",
        when=("driven", "beats"),
    )
    signal: SignalRef = param(
        "", help="Each of its hits is one step", group="Driven by", title="Hits of", when=("driven", "hits")
    )
    fade_in: Ratio = param(0.0, help="Share of a step in which a lamp comes", group="Edges")
    fade_out: Ratio = param(0.0, 0.0, 8.0, "How many steps a lamp takes to go", group="Edges")
    how: Literal[*HOWS] = param(  # type: ignore[valid-type]
        "instead",
        help="Instead: the lamps’ own brightness has no say; highest: the brighter of both; times: it dims",
        group="Edges",
        title="Over what is there",
    )


class ChaseRunning(Kind):
    """A chase on one group."""

    family: ClassVar[str] = "chase-run"


class ChaseRun(ChaseRunning):
    """A chase on one group: whether it runs, how much, and how far it is."""

    title = "Chase"

    running: bool = param(False, help="Whether it acts")
    amount: Ratio = param(1.0, help="How much it acts")
    progress: Ratio = param(0.0, help="How far it is, of a chase that is driven by a value")


class Answering(Kind):
    """How a lamp answers its value."""

    family: ClassVar[str] = "answer"


class Answer(Answering):
    """How a lamp answers its brightness."""

    title = "Curve"

    shape: Literal["straight", "square", "s", "threshold", "points"] = param(
        "straight",
        help="Square: finer in the dark; s: soft at both ends; threshold: dark below it; points: your own",
    )
    threshold: Ratio = param(0.1, help="Below it the lamp stays dark", when=("shape", "threshold"))
    points: Points = param(
        [(0.0, 0.0), (0.25, 0.5), (1.0, 1.0)], help="Corners of the line", when=("shape", "points")
    )
