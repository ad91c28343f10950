"""What each input of the show plays: its track, its live sound, its device or the house band."""

from pathlib import Path

from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.show.events import TrackPlaced
from fulgura.core.show.inputs import Input as Setting
from fulgura.engine.device import DeviceInput
from fulgura.engine.film_input import FilmInput
from fulgura.engine.inputs import HouseInput, Input, LiveInput, TrackInput


class Player:
    """Whatever one input plays. Each kind it has had stays, so that switching back goes on where it was."""

    def __init__(self, tracks: Path) -> None:
        self.tracks = tracks
        self.track: TrackInput | None = None
        self.house: HouseInput | None = None
        self.device: DeviceInput | None = None
        self.film: FilmInput | None = None
        self.shows = ""
        """The source whose film is heard."""
        self.live = LiveInput()
        self.use = "live"

    def choose(self, wanted: Setting, seed: int, position_s: float = 0.0, film: str = "") -> None:
        """Take over the input's settings; a track that is new here begins at position_s. film: the track
        that is the chosen film's sound.
        """
        self.use = wanted.use
        if wanted.use == "track" and wanted.track.track:
            chosen = wanted.track
            if self.track is None or self.track.track != chosen.track:
                if self.track is not None:
                    self.track.close()
                # The name comes from the document; only its last part is used, so that it cannot lead
                # elsewhere.
                self.track = TrackInput(
                    self.tracks / f"{Path(chosen.track).name}.flac", chosen.track, position_s
                )
            self.track.playing = chosen.playing
            self.track.arrange(chosen.loop, chosen.loop_from_s, chosen.loop_to_s, chosen.speed)
        if wanted.use == "house":
            self.house = self.house or HouseInput(seed, wanted.house)
            self.house.settings = wanted.house
        if wanted.use == "film":
            path = self.tracks / f"{Path(film).name}.flac" if film else None
            if self.film is None or self.film.path != path:
                self.film = FilmInput(path)
            self.shows = wanted.film.part
        if self.device is not None and (wanted.use != "device" or self.device.setting != wanted.device):
            # A device belongs to whoever uses it: what is not heard is let go.
            self.device.close()
            self.device = None
        if wanted.use == "device" and self.device is None:
            self.device = DeviceInput(wanted.device)

    @property
    def input(self) -> Input:
        """What is heard now."""
        by_use = {"track": self.track, "house": self.house, "device": self.device, "film": self.film}
        chosen = by_use.get(self.use)
        return chosen if chosen is not None else self.live

    def placed(self) -> TrackPlaced | None:
        """Where its track is; None while it plays none."""
        track = self.track if self.use == "track" else None
        if track is None or not track.length:
            return None
        at, length = track.position / SAMPLE_RATE, track.length / SAMPLE_RATE
        return TrackPlaced(track=track.track, position_s=at, length_s=length, playing=track.playing)

    def close(self) -> None:
        for source in (self.track, self.device, self.film):
            if source is not None:
                source.close()
