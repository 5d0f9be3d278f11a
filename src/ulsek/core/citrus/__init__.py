"""Citrus: what a fruit holds, what a house's own fruit has taught, and what a juice becomes when it is stretched, kept or left on its peel.

`fruit`: what the tables say of each citrus; `known`: what a house knows of a case; `stretch`, `skins`, `keeps`: what becomes of juice and peel;
`experience`: the dated figures that all of them take from `data/citrus.json`. Which fruit is cut for what is planned in `ulsek.planners`.
"""
