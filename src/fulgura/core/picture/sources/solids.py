"""Sources with depth: solids in a lattice, and a surface that a picture pushes out. Both are seen by one kind
of camera.
"""

from typing import ClassVar, Literal

from fulgura.core.parameters import Angle, Colour, Count, LayerRef, Length, Number, Ratio, param
from fulgura.core.picture.kinds import Mesh, Source


class Framed(Source):
    """What a camera looks at. Two framings, and a share between them that a route can move."""

    abstract: ClassVar[bool] = True
    folds = ("aperture",)
    after = ("aperture", "focus.frag")

    orbit: Angle = param(0.0, -180.0, 180.0, "Camera around it", group="Camera")
    rise: Angle = param(0.0, -89.0, 89.0, "Camera above it", group="Camera")
    distance: Length = param(3.2, 0.4, 12.0, "Camera away from it", group="Camera")
    lens: Angle = param(40.0, 8.0, 120.0, "Angle of view; wide is dramatic", group="Camera")
    aperture: Ratio = param(
        0.0,
        help="How soft everything is that is nearer or farther than the focus; 0: all is sharp",
        group="Camera",
    )
    focus: Length = param(3.2, 0.2, 14.0, "Distance from the camera at which it is sharp", group="Camera")
    parallel: bool = param(False, help="No perspective: near and far are alike in size", group="Camera")
    framing: Ratio = param(0.0, help="From this framing to the second", group="Second framing")
    orbit_2: Angle = param(40.0, -180.0, 180.0, "Camera around it", group="Second framing", title="Orbit")
    rise_2: Angle = param(30.0, -89.0, 89.0, "Camera above it", group="Second framing", title="Rise")
    distance_2: Length = param(
        2.2, 0.4, 12.0, "Camera away from it", group="Second framing", title="Distance"
    )
    lens_2: Angle = param(60.0, 8.0, 120.0, "Angle of view", group="Second framing", title="Lens")
    key_turn: Angle = param(-40.0, -180.0, 180.0, group="Light", help="Where the light comes from, around")
    key_rise: Angle = param(45.0, -89.0, 89.0, group="Light", help="Where the light comes from, above")
    tint: Colour = param("#86c5ff", help="Colour of the surface", group="Light")
    sky: Colour = param("#2a2147", help="Light from all around above", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
    rough: Ratio = param(0.5, help="Low is polished, high is dull", group="Light")
    metal: Ratio = param(0.3, help="How much its shine takes its own colour", group="Light")
    haze: Ratio = param(0.2, help="What is far is darker", group="Light")


COLUMNS, ROWS = 24, 14


class Lattice(Framed):
    """Many solids in rows; a picture or the bands make each grow, rise, turn and shine."""

    shader = "solid.frag"
    data = ("spectrum",)
    mesh = Mesh("lattice.vert", vertices=288, instances=COLUMNS * ROWS, blend="none", depth=True)

    solid: Literal["box", "ball", "tetrahedron", "plane"] = param(
        "box", help="What stands at each place", group="Form"
    )
    form: Literal["grid", "ring"] = param("grid", help="How the places lie", group="Form")
    columns: Count = param(16.0, 1.0, float(COLUMNS), "Places in a row", group="Form")
    rows: Count = param(9.0, 1.0, float(ROWS), "Rows", group="Form")
    solid_size: Length = param(0.075, 0.005, 0.6, "Size of one", group="Form", title="Size")
    by: Literal["bands", "picture"] = param(
        "bands",
        help="What moves them: the spectrum from left to right, or a layer's picture",
        group="Form",
        title="Moved by",
    )
    picture: LayerRef = param(
        "", help="The layer whose picture moves them", group="Form", when=("by", "picture")
    )
    grow: Ratio = param(0.6, help="How much smaller they are where it is dark", group="Form")
    lift: Length = param(0.5, -2.0, 2.0, "How far they come forward where it is bright", group="Form")
    twirl: Angle = param(90.0, -360.0, 360.0, "How far they turn where it is bright", group="Form")
    skin: Ratio = param(0.6, help="How much of the picture's own colour they take", group="Light")
    glow: Ratio = param(0.5, help="How much they shine by themselves where it is bright", group="Light")


class Relief(Framed):
    """A plane, a tube or a ball whose surface a picture pushes out; lit, so that its shape shows."""

    shader = "solid.frag"
    data = ("spectrum",)
    mesh = Mesh("relief.vert", vertices=72 * 40 * 6, blend="none", depth=True)

    form: Literal["plane", "tube", "ball"] = param("plane", help="The surface at rest", group="Form")
    picture: LayerRef = param("", help="The layer whose bright parts push it out", group="Form")
    height: Length = param(0.5, -2.0, 2.0, "How far", group="Form")
    waves: Ratio = param(0.35, help="Slow waves of its own", group="Form")
    pace: Number = param(0.6, 0.0, 6.0, "How fast those move", group="Form")
    twist: Angle = param(0.0, -360.0, 360.0, "Turn from bottom to top", group="Form")
    skin: Ratio = param(0.4, help="How much of the picture's own colour it takes", group="Light")
    glow: Ratio = param(0.2, help="How much it shines by itself where it is pushed out", group="Light")
