"""All that lies below a layer."""

from fulgura.core.kinds.drawn import Source


class SoFar(Source):
    """The picture so far: everything that lies below this layer, to do something with all of it."""

    title = "Picture so far"
    shader = "copy.frag"
