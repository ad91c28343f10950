"""More looks of *Night at Vesper Point*: with the lantern tunnel they use every source and every effect."""

from fulgura.core.show.looks import Look
from fulgura.demo.looks.lamps import lamp_swarm, signal_rose, slack_figures
from fulgura.demo.looks.matter import drowned_bells, lamp_globe, reef
from fulgura.demo.looks.overlays import overlays
from fulgura.demo.looks.shore import fog_bank, harbour_lights, open_sea, tide_table
from fulgura.demo.looks.stone import gallery_wall, name_board, spyglass, storm_glass


def looks() -> list[Look]:
    """Fourteen of them, in their order on the desk, and three for a stream."""
    return [
        harbour_lights(),
        fog_bank(),
        signal_rose(),
        tide_table(),
        open_sea(),
        lamp_swarm(),
        slack_figures(),
        gallery_wall(),
        name_board(),
        spyglass(),
        storm_glass(),
        drowned_bells(),
        reef(),
        lamp_globe(),
        *overlays(),
    ]
