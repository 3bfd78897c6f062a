"""Practice over HTTP: a water told of, fished cast by cast, revealed, scored and kept."""

from typing import Any

import pytest

from tests.service.anglers import Bank, new_id


def water(bank: Bank, drill: str = "first_depth", seed: int = 7) -> dict[str, Any]:
    answer = bank.client.get(f"/api/practice/waters/{drill}/{seed}")
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def ask(bank: Bank, what: str, game: dict[str, Any]) -> dict[str, Any]:
    answer = bank.client.post(f"/api/practice/{what}", json=game)
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def test_game__is_fished_cast_by_cast_revealed_and_kept(bank: Bank, stranger: Bank) -> None:
    told = water(bank)
    start = told["starts"][0]
    game = told["game"]
    clock = 0.0
    for k in range(told["drill"]["drifts"]):
        game["casts"].append({**start, "up_m": 3.0})
        seen = ask(bank, "casts", game)
        assert len(seen["x_m"]) == len(seen["dip"]) > 10
        game["casts"][-1]["strike_s"] = seen["said"][0]["at_s"] + 0.3 if seen["said"] else None
        lifted = ask(bank, "lifted", game)
        assert lifted["at_s"] > clock
        clock = lifted["at_s"]
        game["casts"][-1]["outcome"] = lifted["outcome"]
        assert lifted["over"] == (k + 1 == told["drill"]["drifts"])
        if k == 3:
            assert ask(bank, "why", game)["words"]
            assert ask(bank, "hint", game)["reason"]
    shown = ask(bank, "revealed", game)
    assert len(shown["paths"]) == told["drill"]["drifts"]
    assert shown["sections"][0]["judged_depth_m"] == pytest.approx(
        told["lanes"][0]["situation"]["water"]["depth_m"]
    )
    name = new_id()
    done = bank.client.put(f"/api/practice/games/{name}", json={"game": game}).json()
    assert [one["name"] for one in done["beside"]] == ["thumb", "coach", "knowing"]
    assert 0.0 <= done["score"]["low"] <= done["score"]["high"]
    assert (
        bank.client.put(f"/api/practice/games/{name}", json={"game": game}).json() == done
    )  # said twice, kept once
    games = bank.client.get("/api/practice").json()["games"]
    assert [(one["id"], one["share"]) for one in games] == [(name, done["score"]["share"])]
    assert stranger.client.get("/api/practice").json()["games"] == []
    # a friend who is sent the seed has the same water and the same luck
    assert water(stranger) == water(bank)
    assert ask(stranger, "revealed", game) == shown


def test_free_practice__is_with_one_s_own_box(stranger: Bank) -> None:
    bank = stranger  # whose box is empty yet
    whole = water(bank, "free")
    nymph = {
        "kind": "nymph",
        "form": "slim varnished nymph",
        "hook": 14,
        "bead_mm": 3.5,
        "dressing": "slim",
        "count": 3,
    }
    bank.client.put(f"/api/box/{new_id()}", json=nymph).raise_for_status()
    own = water(bank, "free")
    assert own["beads_mm"] == [3.5] != whole["beads_mm"]
    assert own["game"]["box"]["flies"][0]["form"] == "slim varnished nymph"
    assert {one["point_bead_mm"] for one in own["starts"]} <= {3.5}
    assert water(bank, "cold")["game"]["box"] is None


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"casts": []}, "game.casts", "cast first"),
        ({"drill": "hatch"}, "casts.0.rig", "fished with"),
        ({"drill": "nothing"}, "drill", ""),
        ({"seed": 1_000_000}, "seed", "0 to 999999"),
        (
            {"casts": [{"rig": "euro", "depth_setting_m": 99, "point_bead_mm": 2.0}]},
            "casts.0.depth_setting_m",
            "6",
        ),
        (
            {"casts": 16 * [{"rig": "euro", "depth_setting_m": 1.0, "point_bead_mm": 2.0}]},
            "casts",
            "gives 15",
        ),
        ({"school": {}}, "drill", "same for everybody"),
    ],
)
def test_game__refuses_by_name_what_it_is_not_given(
    bank: Bank, change: dict[str, Any], field: str, says: str
) -> None:
    cast = {"rig": "euro", "depth_setting_m": 1.0, "point_bead_mm": 2.0}
    game = {"drill": "first_depth", "seed": 3, "casts": [cast]} | change
    for what in ("casts", "lifted", "revealed", "hint", "why"):
        answer = bank.client.post(f"/api/practice/{what}", json=game)
        assert answer.status_code == 422, (what, answer.text)
        fault = answer.json()["faults"][0]
        assert fault["field"].endswith(field), fault
        assert says in fault["message"], fault


ODD: list[dict[str, Any]] = [
    {"up_m": 12.0, "entry": "heap"},
    {"depth_setting_m": 0.1, "point_bead_mm": None},
    {"depth_setting_m": 6.0, "point_bead_mm": 6.0},
    {"strike_s": 0.0, "mend": "upstream", "direction": "down"},
    {"strike_s": 30.0, "up_m": 0.0},
    {"rig": "dry_dropper", "depth_setting_m": 2.5, "point_bead_mm": 5.5},
]


@pytest.mark.parametrize("odd", ODD)
def test_odd_casts__are_fished_or_refused_and_never_break_anything(bank: Bank, odd: dict[str, Any]) -> None:
    plain = {"rig": "indicator", "depth_setting_m": 1.2, "point_bead_mm": 3.0}
    for drill in ("free", "mend"):
        game = {"drill": drill, "seed": 11, "casts": [plain, plain | odd, plain]}
        answers = {
            what: bank.client.post(f"/api/practice/{what}", json=game)
            for what in ("casts", "lifted", "revealed")
        }
        codes = {one.status_code for one in answers.values()}
        assert len(codes) == 1, {what: one.text[:200] for what, one in answers.items()}
        assert codes <= {200, 422}
        if codes == {422}:
            assert all(one.json()["faults"][0]["message"] for one in answers.values())


def test_games__are_listed_newest_first_each_its_owner_s(bank: Bank, stranger: Bank) -> None:
    cast = {"rig": "indicator", "depth_setting_m": 1.2, "point_bead_mm": 3.0}
    played = []
    for drifts in (1, 2, 3):
        played.append(new_id())
        game = {"game": {"drill": "first_depth", "seed": 1, "casts": drifts * [cast]}}
        bank.client.put(f"/api/practice/games/{played[-1]}", json=game).raise_for_status()
    listed = bank.client.get("/api/practice").json()["games"]
    assert [one["id"] for one in listed] == played[::-1]
    assert [one["drifts"] for one in listed] == [3, 2, 1]
    # the same id is another's own affair
    game = {"game": {"drill": "first_depth", "seed": 1, "casts": 4 * [cast]}}
    stranger.client.put(f"/api/practice/games/{played[0]}", json=game).raise_for_status()
    assert [one["drifts"] for one in stranger.client.get("/api/practice").json()["games"]] == [4]
    assert bank.client.get("/api/practice").json()["games"] == listed
