"""Tests of the whole as bin/start serves it: proxy, supervisor, database, hub, alerts."""
