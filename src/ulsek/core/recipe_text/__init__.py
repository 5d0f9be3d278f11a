"""Reading recipes: what each line of a text is, its ingredients, its method, what is asked of it, the draft; capture by weighing; templates; other open forms."""
