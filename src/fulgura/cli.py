"""The command line: ./fulgura COMMAND."""

import contextlib
import os
import signal
import sys
import threading
import time
from pathlib import Path
from typing import Annotated

import orjson
import typer
from rich.console import Console

from fulgura.folders import ROOT, Folders
from fulgura.jobs import JOBS

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    help="Fulgura listens to music and moves pictures and stage lights with it.",
    pretty_exceptions_enable=False,
)
standins = typer.Typer(no_args_is_help=True, help="Simulated outside devices that speak the real protocol.")
app.add_typer(standins, name="standin")
for name, job in JOBS.items():
    app.command(name, hidden=True)(job)
console = Console(highlight=False, soft_wrap=True)

HOME = Path(os.environ.get("FULGURA_HOME", Path.home() / ".local" / "share" / "fulgura"))
Port = Annotated[int, typer.Option(help="Port of the desk on this machine")]
MidiPort = Annotated[
    int, typer.Option(help="TCP port on which controllers speak MIDI over the network; 0 for none")
]
Spare = Annotated[bool, typer.Option(help="Keep a second engine ready for the first one's end (220 MB)")]
Data = Annotated[Path | None, typer.Option(help="Data folder")]


def fail(message: str) -> None:
    console.print(f"[bold red]Fulgura cannot go on.[/] {message}")
    raise typer.Exit(1)


@app.command()
def demo(
    port: Port = 8420,
    node_port: Annotated[int, typer.Option(help="Port of the stand-in rig's page")] = 8421,
    sacn_port: Annotated[
        int,
        typer.Option(
            help="UDP port on which the stand-in rig listens; a demo show that is first written sends there"
        ),
    ] = 5568,
    artnet_port: Annotated[int, typer.Option(help="The same for Art-Net; 0 for none")] = 6454,
    midi_port: MidiPort = 8423,
    data: Data = None,
    spare: Spare = True,
) -> None:
    """Install what is missing, start everything with the demo show, and print one address."""
    _serve(Folders(data or HOME / "demo"), port, (node_port, sacn_port, artnet_port), midi_port, spare)


@app.command()
def start(port: Port = 8420, midi_port: MidiPort = 8423, data: Data = None, spare: Spare = True) -> None:
    """Start with your own shows (none at first)."""
    _serve(Folders(data or HOME / "shows"), port, None, midi_port, spare)


def _serve(
    folders: Folders, port: int, node: tuple[int, int, int] | None, midi_port: int, spare: bool
) -> None:
    """Start, print the address, watch, end. node: ports of the stand-in rig's page, of its sACN and its
    Art-Net; None: own shows, no demo. midi_port: TCP.
    """
    from fulgura import setup as installing
    from fulgura.store.connection import StoreError
    from fulgura.supervisor import CannotStart, Supervisor

    began = time.monotonic()

    def say(text: str) -> None:
        # Where this is written to a disk that takes nothing, the show goes on.
        with contextlib.suppress(OSError):
            console.print(f"  {time.monotonic() - began:5.1f} s  {text}")

    supervisor = Supervisor(folders, port, node, say, midi_port, spare)
    # The signals are caught from the first moment, so that nothing that was started is ever left behind.
    asked = threading.Event()

    def stop(*_: object) -> None:
        asked.set()
        supervisor.stopping = True

    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, stop)
    try:
        installing.ensure(installing.RUNNING, say)
        new = supervisor.prepare()
        supervisor.start(new)
        if node is not None and not asked.is_set():
            from fulgura.demo.prepare import prepare

            prepare(folders, say, node[1])
        if not asked.is_set():
            supervisor.start_desk()
            console.print(f"\n[bold]Fulgura is ready:[/] http://127.0.0.1:{port}/", soft_wrap=True)
            if node is not None:
                console.print(f"Rig (stand-in): http://127.0.0.1:{node[0]}/")
            console.print("Ctrl-C ends everything.\n")
            supervisor.run()
    except (CannotStart, StoreError, installing.SetupError) as error:
        supervisor.stop()
        fail(str(error))
    except OSError as error:
        supervisor.stop()
        fail(f"{error.strerror}: {error.filename or ''}")
    say("Ending")
    supervisor.stop()


@app.command()
def setup(everything: Annotated[bool, typer.Option("--all", help="Also what testing needs")] = False) -> None:
    """Install what is missing: system packages, Python packages, the desk's build."""
    from fulgura import setup as installing

    try:
        installing.ensure(
            installing.TESTING if everything else installing.RUNNING, lambda text: console.print(f"  {text}")
        )
    except installing.SetupError as error:
        fail(str(error))
    console.print("Everything is in place.")


@app.command()
def doctor() -> None:
    """Check the machine and say what is missing."""
    from fulgura import setup as installing

    missing = 0
    for name, good, cure in installing.examine():
        console.print(
            f"  {'[green]ok     [/]' if good else '[red]missing[/]'} {name}{'' if good else f'. {cure}'}"
        )
        missing += not good
    if missing:
        raise typer.Exit(1)


@app.command(context_settings={"allow_extra_args": True, "ignore_unknown_options": True})
def test(context: typer.Context) -> None:
    """Install what testing needs, pass the gates, run all tests; further words go to pytest alone."""
    setup(everything=True)
    from fulgura.gates import pass_all
    from fulgura.testing import run

    if not context.args and not pass_all(lambda text: console.print(f"  {text}", markup=False)):
        fail("What the gates say above must be mended first.")
    raise typer.Exit(abs(run(context.args)))  # One that was killed has a code below 0.


@app.command("break")
def break_things(
    kills: Annotated[int, typer.Option(help="How often processes are killed at random moments")] = 20,
) -> None:
    """Kill, halt and flood a demo of its own while edits come, and say how that went; takes some minutes."""
    setup(everything=True)
    from fulgura.testing import BREAKING, run

    raise typer.Exit(abs(run([BREAKING, "-s", "--force-reruns", "0", f"--kills={kills}"])))


@app.command()
def analyze(
    file: Path,
    json: Annotated[bool, typer.Option("--json", help="Print one JSON object")] = False,
    export: Annotated[
        list[Path] | None,
        typer.Option(
            help=(
                "Write it down as well: a .jams, .csv, .mid or .txt file (labels); may be given more than"
                " once"
            )
        ),
    ] = None,
) -> None:
    """Feed a sound file through the live analyser and print what it heard."""
    from fulgura.core.sound.exports import FORMATS
    from fulgura.engine.analyze import analyze as run
    from fulgura.engine.analyze import told
    from fulgura.media.sound_file import AudioFileError

    for path in export or []:
        if path.suffix not in FORMATS:
            fail(f"“{path.name}” cannot be written: choose a name that ends in {', '.join(FORMATS)}.")
    try:
        heard = run(file)
    except AudioFileError as error:
        fail(str(error))
    for path in export or []:
        made = FORMATS[path.suffix](heard)
        try:
            path.write_bytes(made if isinstance(made, bytes) else made.encode())
        except OSError as error:
            fail(f"“{path}” could not be written: {error.strerror}.")
    if json:
        sys.stdout.write(orjson.dumps(heard).decode() + "\n")
        return
    for line in told(heard):
        console.print(line)


@app.command()
def still(
    output: Path,
    look: Annotated[str, typer.Option(help="Name or id of a look of the demo show")],
    at: Annotated[float, typer.Option(min=0.0, max=3600.0, help="Seconds into the show's track")] = 8.0,
    size: Annotated[str, typer.Option(help="Width x height")] = "1280x720",
) -> None:
    """Draw one picture of a look in Python, as the show would look at that moment."""
    from fulgura.demo.still import draw_demo
    from fulgura.render.still import StillError

    try:
        draw_demo(look, at, size, output)
    except StillError as error:
        fail(str(error))
    console.print(f"Drew {output}.")


@app.command()
def guard(
    look: Annotated[list[str] | None, typer.Option(help="Name or id of a look of the demo show")] = None,
    track: Annotated[Path | None, typer.Option(help="A sound file; the house band without one")] = None,
    seconds: Annotated[float, typer.Option(min=1.0, max=43_200.0, help="How long each look is drawn")] = 60.0,
    night: Annotated[
        bool, typer.Option("--night", help="Every look for as long as the songs of its night last")
    ] = False,
    html: Annotated[Path | None, typer.Option(help="Also write the report as a page")] = None,
    json: Annotated[bool, typer.Option("--json", help="Print one JSON object")] = False,
) -> None:
    """Count how often looks flash, drawn without and with the guard: WCAG 2.2, success criterion 2.3.1."""
    from fulgura.demo.flashes import FlashesError, count

    try:
        report, page = count(look or [], track, seconds, night)
        if html is not None:
            html.write_text(page)
    except FlashesError as error:
        fail(str(error))
    except OSError as error:
        fail(f"“{html}” could not be written: {error.strerror}.")
    if json:
        sys.stdout.write(report.model_dump_json() + "\n")
        return
    for each in report.looks:
        console.print(
            f"{each.name}: {each.alone.flashes} flashes in its worst second, at {each.alone.at_s:.1f} s, "
            f"over {each.alone.area:.0%} of a field; guarded {each.guarded.flashes}, "
            f"changed by {each.change:.2%}"
        )


@app.command()
def bench(
    json: Annotated[bool, typer.Option("--json", help="Print one JSON object")] = False,
    seconds: Annotated[float, typer.Option(help="How long the running show is watched")] = 60.0,
    write: Annotated[
        bool,
        typer.Option("--write", help="Also write docs/measurements.md (docs/listening.md, docs/night.md)"),
    ] = False,
    listening: Annotated[
        bool, typer.Option("--listening", help="Measure instead how well beats and hits are heard")
    ] = False,
    night: Annotated[
        float, typer.Option(min=0.0, help="Watch instead memory for so many minutes while looks come and go")
    ] = 0.0,
) -> None:
    """Measure this machine: analyser, engine, page and both executors."""
    from fulgura import setup as installing

    def say(text):
        return Console(stderr=True).print(f"  {text}")

    installing.ensure(installing.TESTING, say)
    sys.path.insert(0, str(ROOT))
    if listening or night:
        from bench import listening as heard
        from bench import night as long

        found = heard.run() if listening else long.run(night, say)
        if write and listening:
            heard.write_markdown(found, ROOT / "docs" / "listening.md")
        elif write:
            long.write_markdown(found, ROOT / "docs" / "night.md")
        sys.stdout.write(orjson.dumps(found, option=orjson.OPT_INDENT_2).decode() + "\n")
        return
    from bench.report import print_table, write_markdown
    from bench.run import run

    results = run(seconds, say)
    if write:
        write_markdown(results, ROOT / "docs" / "measurements.md")
    if json:
        sys.stdout.write(orjson.dumps(results, option=orjson.OPT_INDENT_2).decode() + "\n")
    else:
        print_table(results, console)


@app.command()
def openapi(output: Path) -> None:
    """Write the API's description, from which the desk's types are generated."""
    from fulgura.web.app import create_app

    described = create_app(Folders(Path("/nonexistent"))).openapi()
    output.write_bytes(orjson.dumps(described, option=orjson.OPT_INDENT_2))


@standins.command("controller")
def controller(
    port: Annotated[int, typer.Option(help="Port of its page")] = 8422,
    osc_port: Annotated[int, typer.Option(help="UDP port that the OSC messages go to: the desk's")] = 8420,
    midi_port: Annotated[int, typer.Option(help="TCP port that MIDI goes to; 0 for none")] = 8423,
    answers: Annotated[int, typer.Option(help="UDP port on which it hears OSC; 0 for none")] = 0,
) -> None:
    """A controller with eight faders, sixteen pads, an encoder and a clock, by MIDI and OSC."""
    from fulgura.standins.controller import main

    main(port, osc_port, midi_port, answers)


@standins.command("rig")
def rig(
    port: Annotated[int, typer.Option(help="Port of its page")] = 8421,
    host: Annotated[str, typer.Option(help="Address of this machine that it listens at")] = "127.0.0.1",
    sacn_port: Annotated[int, typer.Option(help="UDP port for sACN")] = 5568,
    artnet_port: Annotated[int, typer.Option(help="UDP port for Art-Net; 0 for none")] = 6454,
    file: Annotated[
        Path | None, typer.Option("--rig", help="Where lamps hang: a rig file of the desk")
    ] = None,
    groups: Annotated[int, typer.Option(help="Universes that are heard by multicast too")] = 0,
) -> None:
    """A rig: receives sACN and Art-Net and shows its lamps from the packets alone."""
    from fulgura.standins.rig import main

    main(port, host, sacn_port, artnet_port or None, file, groups)
