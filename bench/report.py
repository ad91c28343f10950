"""The measurements for people: what was measured, how much it is, how much is wanted."""

from collections.abc import Iterator
from pathlib import Path

from rich.console import Console
from rich.table import Table

Row = tuple[str, str, str]


def rows_of(results: dict) -> list[Row]:
    """(what, measured, wanted) of everything."""
    parts = (
        _hearing,
        _routing,
        _lights,
        _hands,
        _engine,
        _columns,
        _particles,
        _kinds,
        _matter,
        _guard,
        _passes,
    )
    return [row for part in parts for row in part(results)]


def _hearing(results: dict) -> Iterator[Row]:
    factor = results["analyser"]["realtime_factor"]
    yield (
        "processor time taken by other guests of the host while measuring",
        f"{results['machine']['stolen_percent']:.0f} %",
        "0 % for numbers to compare",
    )
    own = results["analyser"]["processor_factor"]
    yield (
        "analyser, times real time on one core: by the clock (median; worst track)",
        f"{factor['median']:.0f}; {factor['worst_track_median']:.0f}",
        "40 or more",
    )
    crowded = factor["twelve_bands"]
    yield (
        "the same with 12 bands, each with hits of its own, beside everything else (median; best of seven:"
        " this host's pace changes by half within a minute)",
        f"{crowded['median']:.0f}; {crowded['best']:.0f}",
        "40 or more",
    )
    yield (
        "with the usual three bands, by processor time (median; least)",
        f"{own['median']:.0f}; {own['least']:.0f}",
        "40 or more",
    )


def _routing(results: dict) -> Iterator[Row]:
    for count, row in results["routes"].items():
        tick, edit = row["tick_ms"], row["edit_ms"]
        yield (
            f"a tick of {count} routes with 4 shapers each p50 / p99, ms",
            f"{tick['p50']:.2f} / {tick['p99']:.2f}",
            "4 or less" if count == "500" else "12 or less",
        )
        yield (
            f"an edit of one of {count} routes (one is compiled) p50 / p99, ms",
            f"{edit['p50']:.1f} / {edit['p99']:.1f}",
            "",
        )


def _engine(results: dict) -> Iterator[Row]:
    engine = results["engine"]
    late, through = engine["lateness_ms"], engine["block_to_frame_ms"]
    yield (
        "tick lateness p50 / p99 / max, ms",
        f"{late['p50']:.2f} / {late['p99']:.2f} / {late['max']:.2f}",
        "p99 3 or less",
    )
    bare = engine["bare_clock_lateness_ms"]
    yield (
        "the same of a loop that only sleeps (the machine's own)",
        f"{bare['p50']:.2f} / {bare['p99']:.2f} / {bare['max']:.2f}",
        "",
    )
    yield (
        "block to published frame p50 / p95, ms",
        f"{through['p50']:.1f} / {through['p95']:.1f}",
        "p95 20 or less",
    )
    yield ("engine, share of a core", f"{engine['share_of_a_core_percent']:.0f} %", "under 30 %")
    spare = results["spare"]
    yield (
        "the spare engine: memory of its own, shared with others, MiB; processor time of its first 20 s, s",
        f"{spare['own_mib']:.0f}, {spare['shared_mib']:.0f}; {spare['start_processor_s']:.1f}",
        "",
    )
    yield (
        "frames a second in the desk, in the output",
        ", ".join(f"{v:.0f}" for v in engine["page_frames_per_second"].values()),
        "",
    )


def _columns(results: dict) -> Iterator[Row]:
    columns = results["columns"]
    for name in ("score", "200 routes"):
        rate = columns[name]["frames_per_second"]
        yield (
            f"the desk with the {name}, painted in software: frames a second (median; best); the page's own"
            " ms a frame; an empty page's frames a second",
            f"{rate['median']:.0f}; {rate['best']:.0f}; {columns[name]['page_ms_a_frame']:.1f};"
            f" {columns['empty_page_frames_per_second']:.0f}",
            "60, as an empty page",
        )


def _lights(results: dict) -> Iterator[Row]:
    lights = results["lights"]
    tick, hit, drawing = lights["tick"], lights["hit_to_packet"], lights["drawing"]
    part = tick["part_of_tick_ms"]
    yield (
        f"lights' part of a tick, {tick['lamps']} lamps in {tick['universes']} universes,"
        f" {tick['moved']} moved, p50 / p99, ms",
        f"{part['p50']:.2f} / {part['p99']:.2f}",
        "2 or less",
    )
    yield (
        f"a burst of sound to the packet that carries it, p50 / p95 of {hit['hits']}, ms; missed",
        f"{hit['ms']['p50']:.1f} / {hit['ms']['p95']:.1f}; {hit['missed']}",
        "p95 25 or less",
    )
    for name, title in (("desk_ms", "the desk"), ("stand_in_ms", "the stand-in")):
        own = drawing[name]
        yield (
            f"drawing {drawing['lamps']} lamps on {title}, script a frame p50 / p95, ms",
            f"{own['p50']:.1f} / {own['p95']:.1f}",
            "p95 6 or less",
        )
    yield ("packet to the stand-in's screen p95, ms", f"{drawing['packet_to_screen_p95_ms']:.0f}", "")


def _hands(results: dict) -> Iterator[Row]:
    for way, took in results["hands"]["presses"].items():
        yield (
            f"a press by {way} to the frame that shows it, p50 / p95, ms",
            f"{took['p50']:.1f} / {took['p95']:.1f}",
            "p95 25 or less",
        )
    clock = results["hands"]["clock"]
    yield (
        "intervals of the MIDI clock that is given, off by p50 / p99, ms",
        f"{clock['p50_ms']:.2f} / {clock['p99_ms']:.2f}",
        "p99 2 or less",
    )


def _particles(results: dict) -> Iterator[Row]:
    swarm = results["particles_ms"]
    yield (
        "a tick with 50,000 particles, moved, packed and encoded p50 / p99, ms",
        f"{swarm['p50']:.1f} / {swarm['p99']:.1f}",
        "5 or less",
    )


def _kinds(results: dict) -> Iterator[Row]:
    kinds = results["kinds"]
    yield (
        "looks of the demo at 640x360 in Python's executor, pictures a second (passes)",
        ", ".join(
            f"{name} {row['per_second']:.0f} ({row['passes']})" for name, row in kinds["looks"].items()
        ),
        "20 or more (14 or fewer)",
    )
    cheapest = ", ".join(f"{reads}: {ms:.2f} ms" for reads, ms in kinds["cheapest_ms"].items())
    beside = ", ".join(
        f"{name} {row['times']:.1f}" + (f" in {row['passes']} passes" if row["passes"] > 1 else "")
        for name, row in kinds["kinds"].items()
    )
    yield (
        "sources and effects at 1280x720, beside the cheapest passes that read and write as many targets"
        f" (reading {cheapest})",
        beside,
        "1.3",
    )


def _matter(results: dict) -> Iterator[Row]:
    matter = results["matter"]
    yield (
        "a full history of 1,024 by 2,048 at 1280x720, beside one of 96 by 256",
        f"{matter['history']['times']:.2f}× ({matter['history']['ms']:.1f} ms)",
        "1.5",
    )
    for name, said in (("guarded", "with the guard"), ("alone", "without the guard")):
        yield (
            f"one source and feedback, and solids placed by a picture, at 640x360, pictures a second {said}",
            ", ".join(f"{what} {rate:.0f}" for what, rate in matter[name].items()),
            "30; 15 for 5,000 solids",
        )


def _guard(results: dict) -> Iterator[Row]:
    for size, rows in results["guard"].items():
        for name in ("calm", "all held"):
            yield (
                f"the guard's passes at {size} in Python's executor, {name}: ms (beside the bare copy)",
                f"{rows[name]['ms']:.1f} ({rows[name]['times_bare_copy']:.1f}×)",
                "3",
            )


def _passes(results: dict) -> Iterator[Row]:
    for name, key in (("Python", "passes_python_ms"), ("page", "passes_page_ms")):
        for size, passes in results[key].items():
            text = ", ".join(
                f"{k} {v['ms']:.2f} ({v['times_bare_copy']:.2f}×)"
                for k, v in passes.items()
                if k != "bare_copy"
            )
            yield (
                f"{name}, {size}: ms a pass (beside the bare copy, {passes['bare_copy']:.2f} ms)",
                text,
                "",
            )


def print_table(results: dict, console: Console) -> None:
    table = Table("what", "measured", "wanted")
    for row in rows_of(results):
        table.add_row(*row)
    console.print(table)


def write_markdown(results: dict, path: Path) -> None:
    """docs/measurements.md."""
    machine = results["machine"]
    lines = [
        "# Measurements",
        "",
        "Made by `./fulgura bench --write`; do not edit by hand.",
        "",
        (
            f"Machine: {machine['cores']} cores, {machine['processor']}, Python {machine['python']}, no"
            " graphics card: both executors draw in software."
        ),
        "",
        "| what | measured | wanted |",
        "|---|---|---|",
        *(f"| {' | '.join(row)} |" for row in rows_of(results)),
        "",
        (
            "A pass is timed by drawing it and reading one pixel of what it drew into. In software a pass"
            " costs what its"
        ),
        (
            "arithmetic costs, so only a pass that does as little as a copy compares with the bare copy:"
            " copy.frag (the same"
        ),
        (
            "copy through the executor). The bare copy of the page is written straight in WebGL2, that of"
            " Python runs"
        ),
        "through moderngl.",
        "",
    ]
    path.write_text("\n".join(lines))
