"""What has depth is seen by one kind of camera, with two framings, and lit by one kind of light."""

from typing import ClassVar

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Length, Number, Ratio, param


class Framed(Source):
    """What a camera looks at. Two framings, and a share between them that a route can move."""

    abstract: ClassVar[bool] = True
    specialised = ("aperture",)
    after = ("aperture", "focus.frag")

    azimuth: Angle = param(0.0, -180.0, 180.0, "Camera around it", group="Camera", title="Orbit")
    elevation: Angle = param(0.0, -89.0, 89.0, "Camera above it", group="Camera", title="Rise")
    distance: Length = param(3.2, 0.4, 12.0, "Camera away from it", group="Camera")
    field_of_view: Angle = param(
        40.0, 8.0, 120.0, "Angle of view; wide is dramatic", group="Camera", title="Lens"
    )
    aperture: Ratio = param(
        0.0,
        help="How soft everything is that is nearer or farther than the focus; 0: all is sharp",
        group="Camera",
    )
    focus: Length = param(3.2, 0.2, 14.0, "Distance from the camera at which it is sharp", group="Camera")
    parallel: bool = param(False, help="No perspective: near and far are alike in size", group="Camera")
    framing: Ratio = param(0.0, help="From this framing to the second", group="Second framing")
    azimuth_2: Angle = param(40.0, -180.0, 180.0, "Camera around it", group="Second framing", title="Orbit")
    elevation_2: Angle = param(30.0, -89.0, 89.0, "Camera above it", group="Second framing", title="Rise")
    distance_2: Length = param(
        2.2, 0.4, 12.0, "Camera away from it", group="Second framing", title="Distance"
    )
    field_of_view_2: Angle = param(60.0, 8.0, 120.0, "Angle of view", group="Second framing", title="Lens")
    key_azimuth: Angle = param(
        -40.0, -180.0, 180.0, group="Light", help="Where the light comes from, around", title="Key turn"
    )
    key_elevation: Angle = param(
        45.0, -89.0, 89.0, group="Light", help="Where the light comes from, above", title="Key rise"
    )
    key: Number = param(
        1.0, 0.0, 4.0, "How bright that light is; 0: what shines by itself alone", group="Light", title="Key"
    )
    tint: Colour = param("#86c5ff", help="Colour of the surface", group="Light")
    sky: Colour = param("#2a2147", help="Light from all around above", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
    roughness: Ratio = param(0.5, help="Low is polished, high is dull", group="Light", title="Rough")
    metallic: Ratio = param(0.3, help="How much its shine takes its own colour", group="Light", title="Metal")
    haze: Ratio = param(0.2, help="What is far is darker", group="Light")
