"""One house as an archive: every row of it in an open form, written and taken in; and what is stored about one person."""
