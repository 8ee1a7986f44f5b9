"""Every id in a body: taken when it is ours, refused when it is another workshop's, where nothing else differs."""

from collections.abc import Callable
from typing import Any

from tests.api.base import KNOWN, ApiTest


class ForeignIds(ApiTest):
    """Things of the stranger's named by a member of ours."""

    def setUp(self) -> None:
        super().setUp()
        self.ours = {
            "meter": self.meter_id(), "part": self.get("parts")[0]["id"], "supplier": self.get("suppliers")[0]["id"],
            "resistor": self.get("resistors")[9]["id"], "position": str(self.position(7, "C1").pk),
            "place": str(self.position(8, "CX1").pk),
            "line": self.get(f"jobs/{self.job(7).pk}/found")["lines"][0]["id"],
        }  # fmt: skip
        meter, part, supplier, resistor = (self.get(path) for path in ("meters", "parts", "suppliers", "resistors"))
        typed = {"resistance": "100 Ω", "power": "50 W", "working_voltage": "500 V", "pulse_energy": ""}
        mine = [next(one for one in meter if one["id"] == self.ours["meter"]), part[0], supplier[0], resistor[9] | typed]
        self.sign_in("stranger")
        job = self.post("jobs", {"title": "T", "supply_voltage": "230", "supply_frequency": "50"})["id"]
        made = [self.post(path, row) for path, row in zip(("meters", "parts", "suppliers", "resistors"), mine, strict=True)]
        place = self.post(f"jobs/{job}/positions", {"name": "C1", "role": "reservoir", "marking": "32+32 µF 500 VDC"})
        other = self.post(f"jobs/{job}/positions", {"name": "CX1", "role": "x", "marking": "220 nF K X2 305 V~"})
        line = self.post(f"jobs/{job}/found", {"text": "red rectifier -> C1.a"})
        self.theirs = dict(zip(("meter", "part", "supplier", "resistor"), (one["id"] for one in made), strict=True))
        self.theirs |= {"position": place["id"], "place": other["id"], "line": line["id"]}
        self.sign_in("orne")

    def test_each_is_taken_when_it_is_ours_and_refused_when_it_is_theirs(self) -> None:
        here, job = f"positions/{self.position(8, 'CX1').pk}", f"jobs/{self.job(8).pk}"
        fits = self.get(f"{here}/candidates")["accepted"][0]["part"]["id"]
        photo = self.get(f"jobs/{self.job(7).pk}/found")["photos"][0]["id"]
        pairs = self.get(f"{here}/discharge")["proof"]["pairs"]
        proof = {**KNOWN, "readings": [{"dc": "0.2", "ac": "10 mV"} for _ in pairs]}
        places = [{"position_id": self.position(8, "CX1").pk, "readings": proof["readings"]}]
        point = {"x": 0.5, "y": 0.5, "label": "here"}
        insulation = {"check_id": "insulation", "value": ">60M"}
        asks: list[tuple[str, str, Callable[[Any], Any]]] = [
            ("meter", f"{here}/readings", lambda key: {"value": "220n", "meter_id": key, "condition": "lifted"}),
            ("meter", f"{here}/proof", lambda key: proof | {"meter_id": key}),
            ("meter", f"{job}/proofs", lambda key: KNOWN | {"places": places, "meter_id": key}),
            ("meter", f"{job}/checks", lambda key: insulation | {"meter_id": key}),
            (
                "meter",
                f"{job}/board",
                lambda key: {"name": "C9", "role": "x", "marking": "1 µF X2 310~", "value": "1u", "meter_id": key},
            ),
            ("resistor", f"{here}/charge", lambda key: {"state": "emptying", "shape": "single", "resistor_ids": [key]}),
            ("meter", f"{here}/fall", lambda key: {"rows": "0 300\n1 200\n2 133", "meter_id": key}),
            ("position", f"photos/{photo}/points", lambda key: point | {"position_id": key}),
            ("line", f"photos/{photo}/points", lambda key: point | {"line_id": key}),
            ("part", "shopping", lambda key: {"part_id": key}),
            ("place", "shopping", lambda key: {"part_id": fits, "position_id": key}),
            ("part", "offers", lambda key: {"supplier_id": self.ours["supplier"], "part_id": key, "prices": "1: 0.42"}),
            ("supplier", "offers", lambda key: {"supplier_id": key, "part_id": self.ours["part"], "prices": "1: 0.42"}),
        ]
        for what, path, body in asks:
            with self.subTest(what=what, path=path):
                refused = self.client.post(f"/api/{path}", body(self.theirs[what]), content_type="application/json")
                self.assertIn(refused.status_code, (404, 422), refused.content)
                taken = self.client.post(f"/api/{path}", body(self.ours[what]), content_type="application/json")
                self.assertEqual(taken.status_code, 200, taken.content)
