"""Computations in processes of their own: what they return and raise comes back whole, and what takes too long is ended."""

import multiprocessing
import os
import signal
import threading
import time

import pytest

from ulsek.computing import AT_ONCE, _places, in_time, within
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.open_forms import read_any
from ulsek.core.recipe_text.parser import parse_recipe


def endless(number):
    while True:
        number += 1


def dies():
    os.kill(os.getpid(), signal.SIGKILL)


def refuses():
    raise Refusal(message("This cannot be"), "steps/s1", message("at most {n}", n=3), message("Take less"), "too_many")


def test_what_it_returns_is_what_it_returns_here():
    text = "Syrup\n100 g sugar\n100 g water\nStir until clear."
    known = typical_materials()
    assert in_time(parse_recipe, text, "metric", known, None) == parse_recipe(text, "metric", known, None)
    assert in_time(read_any, text, known) == read_any(text, known)


def test_a_refusal_comes_back_whole():
    with pytest.raises(Refusal) as refused:
        in_time(refuses)
    found = refused.value
    assert (found.text, found.where, found.code) == ("This cannot be: at most 3. Take less.", "steps/s1", "too_many")


@pytest.mark.parametrize(("function", "given", "words"), [
    (endless, (1,), "This took too long to work out, and was stopped: at most 0.5 s. Take it apart, and try again."),
    (dies, (), "This could not be worked out. Take it apart, and try again."),
])  # fmt: skip
def test_what_takes_too_long_or_dies_is_said_and_the_next_one_is_worked_out(function, given, words):
    in_time(os.getpid)  # started
    for _ in range(3):
        begun = time.monotonic()
        with pytest.raises(Refusal) as refused:
            within(0.5, function, *given)
        assert refused.value.text == words
        assert time.monotonic() - begun < 8
    assert in_time(abs, -3) == 3


def test_what_waits_while_every_process_dies_is_worked_out_by_new_ones():
    for _ in range(3):
        in_time(os.getpid)  # started
        processes = multiprocessing.active_children()
        for process in processes:
            process.kill()
        for process in processes:
            process.join()
        assert in_time(abs, -3) == 3


def test_only_so_many_wait_at_once_and_the_next_is_told_so():
    in_time(os.getpid)
    taken = [_places.acquire(timeout=1) for _ in range(AT_ONCE)]
    try:
        assert all(taken)
        with pytest.raises(Refusal) as refused:
            in_time(abs, -3)
        assert (refused.value.code, refused.value.text) == ("busy", "Much is being worked out just now. Try again in a moment.")
    finally:
        for _ in taken:
            _places.release()
    assert in_time(abs, -3) == 3


def test_a_slow_one_holds_up_nobody_else():
    in_time(os.getpid)

    def waits():
        with pytest.raises(Refusal):
            within(3.0, endless, 1)

    slow = threading.Thread(target=waits)
    slow.start()
    begun = time.monotonic()
    assert [in_time(abs, -n) for n in range(20)] == list(range(20))
    assert time.monotonic() - begun < 3, "the other process went on"
    slow.join()
