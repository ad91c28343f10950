"""Lamps at their addresses, and where universes are sent."""

from typing import Self

from pydantic import Field, model_validator

from fulgura.core.kinds.fixture import Fixture
from fulgura.core.show.part import AFixture, Id, Name, Strict


class Lamp(Strict):
    """A fixture at an address. universe from 1 to 63999 (ANSI E1.31), address from 1 to 512."""

    id: Id
    name: Name
    universe: int = Field(1, ge=1, le=63_999)
    address: int = Field(1, ge=1, le=512)
    fixture: AFixture

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.address + Fixture.kinds[self.fixture.kind].channels - 1 > 512:
            raise ValueError(f"“{self.name}” does not fit: its channels run past 512")
        return self


class LightOutput(Strict):
    """Where universes are sent."""

    host: str = Field("127.0.0.1", min_length=1, max_length=255)
    port: int = Field(5568, ge=1, le=65_535)
    priority: int = Field(100, ge=0, le=200)
    on: bool = True
