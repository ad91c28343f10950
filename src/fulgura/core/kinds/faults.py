"""What can be wrong while a show plays: a code and its values. Code asks for the code; people read the words,
which stand here once.
"""

from enum import StrEnum

from pydantic import BaseModel, ConfigDict, computed_field


class FaultCode(StrEnum):
    """What is wrong. How a performer reads it stands in WORDS."""

    SIGNAL_GONE = "signal-gone"
    TARGET_GONE = "target-gone"
    SOME_TARGET_GONE = "some-target-gone"
    SHAPER_SIGNAL_GONE = "shaper-signal-gone"
    NEEDS_COLOURS = "needs-colours"
    NEEDS_NUMBERS = "needs-numbers"
    RING = "ring"
    TOO_LARGE = "too-large"
    MODULATOR_SIGNAL_GONE = "modulator-signal-gone"
    EXPRESSION = "expression"
    UNKNOWN_NAME = "unknown-name"
    DIVIDES_BY_ZERO = "divides-by-zero"
    ENDLESS = "endless"
    TRACK_UNREADABLE = "track-unreadable"
    TRACK_BROKEN = "track-broken"
    FILM_SILENT = "film-silent"
    FILM_HIDDEN = "film-hidden"
    LIVE_GONE = "live-gone"
    DEVICE_GONE = "device-gone"
    RECORDING_STOPPED = "recording-stopped"
    LIGHT_ADDRESS = "light-address"
    LIGHT_NETWORK = "light-network"
    OSC_PORT_TAKEN = "osc-port-taken"
    MIDI_PORT_TAKEN = "midi-port-taken"
    DATABASE_AWAY = "database-away"
    DATABASE_REFUSES = "database-refuses"
    JOURNAL_REFUSES = "journal-refuses"
    NOTHING_KEPT = "nothing-kept"
    RECORDING_WAITS = "recording-waits"
    PRESET_OTHER_KIND = "preset-other-kind"
    PRESET_PLACE_GONE = "preset-place-gone"


WORDS: dict[FaultCode, str] = {
    FaultCode.SIGNAL_GONE: "Its signal is gone.",
    FaultCode.TARGET_GONE: "What it moved is gone.",
    FaultCode.SOME_TARGET_GONE: "One of those that it moved is gone.",
    FaultCode.SHAPER_SIGNAL_GONE: "{shaper} listens to a signal that is gone.",
    FaultCode.NEEDS_COLOURS: "It needs two colours, not numbers.",
    FaultCode.NEEDS_NUMBERS: "It needs two numbers, not colours.",
    FaultCode.RING: "Goes round in a ring: {names}.",
    FaultCode.TOO_LARGE: "Its shapers made a number too large to use.",
    FaultCode.MODULATOR_SIGNAL_GONE: "The signal “{signal}” that it listens to is gone.",
    FaultCode.EXPRESSION: "{words}",
    FaultCode.UNKNOWN_NAME: "There is no signal called “{name}”.",
    FaultCode.DIVIDES_BY_ZERO: "It divides by zero.",
    FaultCode.ENDLESS: "It makes a number too large to use.",
    FaultCode.TRACK_UNREADABLE: "{words}",
    FaultCode.TRACK_BROKEN: (
        "{file} cannot be read any further ({why}). Choose another track, or add it again."
    ),
    FaultCode.FILM_SILENT: "No film with a sound of its own is chosen. Choose a layer with one in Hear.",
    FaultCode.FILM_HIDDEN: "The film is not shown now: its sound stands still as its picture does.",
    FaultCode.LIVE_GONE: "No live sound arrives. Choose a device in Hear.",
    FaultCode.DEVICE_GONE: (
        "{device} is not there ({why}). It is taken back as soon as it is; all routes stay."
    ),
    FaultCode.RECORDING_STOPPED: (
        "The recording ended: the disk could not keep it ({why}). What was written stays."
    ),
    FaultCode.LIGHT_ADDRESS: "“{host}” is not a network address like 192.168.0.20; nothing is sent.",
    FaultCode.LIGHT_NETWORK: "The light network takes no packets ({why}); it is tried again every second.",
    FaultCode.OSC_PORT_TAKEN: "UDP port {port} is taken, so no OSC controller is heard.",
    FaultCode.MIDI_PORT_TAKEN: "TCP port {port} is taken, so no MIDI comes over the network.",
    FaultCode.DATABASE_AWAY: "{words}",
    FaultCode.DATABASE_REFUSES: "The database refuses to save ({why}).",
    FaultCode.JOURNAL_REFUSES: "The data folder cannot be written ({why}): steps are kept a little late.",
    FaultCode.NOTHING_KEPT: "Nothing can be kept: the database does not answer, and the data folder cannot be"
    " written ({why}).",
    FaultCode.RECORDING_WAITS: "The recording “{name}” waits to be taken in: {why}",
    FaultCode.PRESET_OTHER_KIND: "What it belongs to is another kind of thing now.",
    FaultCode.PRESET_PLACE_GONE: "What it belongs to is not there any more.",
}


class Fault(BaseModel):
    """One thing that is wrong. values: what the words name.

    >>> Fault.of(FaultCode.UNKNOWN_NAME, name="lwo").text
    'There is no signal called “lwo”.'
    """

    model_config = ConfigDict(frozen=True)

    code: FaultCode
    values: dict[str, str] = {}

    @classmethod
    def of(cls, code: FaultCode, **values: object) -> "Fault":
        """A fault with the values that its words name."""
        return cls(code=code, values={name: str(value) for name, value in values.items()})

    @computed_field  # type: ignore[prop-decorator]
    @property
    def text(self) -> str:
        """The words, for a performer."""
        return WORDS[self.code].format(**self.values)
