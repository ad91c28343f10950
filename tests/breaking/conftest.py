"""How often things are broken."""


def pytest_addoption(parser):
    parser.addoption("--kills", type=int, default=20, help="how often processes are killed at random moments")
