"""One case at least for each verb, in a module named as the verb's own in `core/operations`."""
