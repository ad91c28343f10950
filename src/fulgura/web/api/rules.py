"""Rules of the job that the desk needs before it asks: said here once."""

from fastapi import APIRouter
from pydantic import BaseModel

from fulgura.core.safety.rules import MOST_FLASHES
from fulgura.core.show.inputs import NARROWEST
from fulgura.core.show.outputs import LEAST_WORDS
from fulgura.core.show.routes import MIXES, MixHow
from fulgura.core.sound.listener import CONFIDENT

router = APIRouter()


class MixRule(BaseModel):
    """A way in which several routes on one parameter become one."""

    how: MixHow
    says: str


class Rules(BaseModel):
    """mixes: in the order in which they are offered; least_band_ratio: of a band's end to its beginning;
    confident: how sure the beat must be for it to be shown as one; most_flashes: in a second; words_why: how
    many a sentence has at least with which the guard is switched off.
    """

    mixes: list[MixRule]
    least_band_ratio: float
    confident: float
    most_flashes: int
    words_why: int


@router.get("/rules")
async def rules() -> Rules:
    """What the desk must know of the job's rules."""
    mixes = [MixRule(how=how, says=says) for how, says in MIXES.items()]
    return Rules(
        mixes=mixes,
        least_band_ratio=NARROWEST,
        confident=CONFIDENT,
        most_flashes=MOST_FLASHES,
        words_why=LEAST_WORDS,
    )
