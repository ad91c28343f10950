from fulgura.core.parameters import LayerRef, param
from fulgura.core.picture.kinds import Source


class Again(Source):
    """Another layer's picture once more, to do something else with it. From a layer above it comes one frame
    late.
    """

    title = "Another layer"
    shader = "copy.frag"

    source: LayerRef = param("", help="The layer that is shown again")


class SoFar(Source):
    """The picture so far: everything that lies below this layer, to do something with all of it."""

    title = "Picture so far"
    shader = "copy.frag"
