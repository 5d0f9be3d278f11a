"""Events of a run: one frozen dataclass for each kind, which knows how it is read and what it does to the record of the batch.

One JSON object per event, one per line in a file: `id` (made by the client, unique), `kind`, `at` (ISO 8601 with the device's offset), `lamport`, `device`,
`sequence`, `by`, `body`. Their order is (`lamport`, `device`, `sequence`); sending one again changes nothing; none is ever changed or rewritten. Parts of a body
that its kind does not declare are kept and not read. An event that was taken in stays readable: an optional part that today's rules refuse is left out.

Whoever sends says what its clock shows (`now`, beside `events`): `at` is corrected by how far that is off. A time that cannot be true is set to the earliest that
it can have been, and a counter far beyond what was seen to the next one. What the device said is kept in `said_at` and `said_lamport`, what was done in `clock`
(`corrected`, `estimated`). `proof` says what shows that it was `by` that person: the `key` of their session, a `lead` who accepted it, or nothing, as for all that
was done before actions were signed and for what programs send. How a device signs and sends: `signed-action.md`.

`bin/ulsek run spec.json events.jsonl` folds them on the command line. `run-events.schema.json` describes one with its bounds, as the site answers with it; a file needs no
`by`, `said_at`, `clock` or `proof`.
"""
