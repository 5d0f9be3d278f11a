"""Statistics of sensory panels: what a panel can show, and what it showed."""


def warm() -> None:
    """Loads the statistics library, which takes a second, so that the first verdict does not wait for it."""
    from . import expectations, panel, surface

    del expectations, panel, surface
