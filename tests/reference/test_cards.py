"""The cards beside the weights: file, card, configuration and notices say the same."""

import json

import pytest

from fulgura.folders import ROOT
from training.cards import MODELS, card
from training.configurations import CONFIGURATIONS, MATERIAL


@pytest.mark.parametrize("name", CONFIGURATIONS)
def test_a_card_is_what_the_file_and_the_configuration_make_it(name):
    """SHA-256, configuration, command, materials, packages and the table's metrics: all of it read anew."""
    assert json.loads((MODELS / f"{name}.json").read_text()) == card(name)


def test_every_file_of_weights_has_a_card_and_a_configuration():
    weights = {file.stem for file in MODELS.glob("*.npz")}
    assert weights == {file.stem for file in MODELS.glob("*.json")} == set(CONFIGURATIONS)


def test_notices_name_what_the_networks_were_taught_on():
    notices = (ROOT / "THIRD-PARTY-NOTICES.md").read_text()
    for name, (version, licence) in MATERIAL.items():
        assert f"| {name} | {version} | {licence} |" in notices
