"""Statistics of sensory panels: what a panel can show, and what it showed."""
