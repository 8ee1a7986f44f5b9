"""The shopping list: what jobs wait for, the basket, orders, what came, and a price service that fails in every way."""

import datetime
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from decimal import Decimal
from typing import Any
from wsgiref.simple_server import WSGIRequestHandler, make_server

from django.test import SimpleTestCase, override_settings
from django.utils import timezone

from dusky_heron.buying.models import Offer, Ordered, Want
from dusky_heron.buying.prices import Silent, ask_prices
from dusky_heron.buying.schemas import breaks_of
from dusky_heron.demo.price_stand_in import prices
from dusky_heron.stock.models import Part
from tests.api.base import ApiTest


class Quiet(WSGIRequestHandler):
    """Says nothing of each request."""

    def log_message(self, format: str, *args: object) -> None:
        pass


@contextmanager
def served(application: Callable[..., Any]) -> Iterator[str]:
    """A service on loopback, at its address."""
    with make_server("127.0.0.1", 0, application, handler_class=Quiet) as server:
        thread = threading.Thread(target=server.serve_forever)
        thread.start()
        yield f"http://127.0.0.1:{server.server_port}"
        server.shutdown()
        thread.join()


def answering(content: bytes, status: str = "200 OK") -> Callable[..., Any]:
    def application(environ: dict[str, Any], start: Callable[..., Any]) -> list[bytes]:
        start(status, [("Content-Type", "application/json")])
        return [content]

    return application


class Shopping(ApiTest):
    """From what is wanted to what lies in the drawer."""

    def test_the_demo_is_bought_whole_and_cheaper_than_apart(self) -> None:
        basket = self.get("shopping")["basket"]
        self.assertTrue(basket["proved"])
        self.assertLessEqual(Decimal(basket["total"]), Decimal(basket["apart"]))
        for parcel in basket["parcels"]:
            lines = sum(Decimal(line["cost"]) for line in parcel["lines"])
            self.assertEqual(lines, Decimal(parcel["goods"]))
            self.assertEqual(lines + Decimal(parcel["postage"]), Decimal(parcel["total"]))
            for line in parcel["lines"]:
                self.assertEqual(Decimal(line["cost"]), line["units"] * Decimal(line["each"]))
        self.assertEqual(sum(Decimal(parcel["total"]) for parcel in basket["parcels"]), Decimal(basket["total"]))

    def test_ordered_and_received_it_lies_in_the_drawer_and_the_job_knows(self) -> None:
        while parcels := self.get("shopping")["basket"]["parcels"]:
            first = parcels[0]
            self.post("orders", {"supplier_id": first["supplier_id"], "total": "0.01"}, 422)
            self.post("orders", {"supplier_id": first["supplier_id"], "total": first["total"]})
        listed = self.get("shopping")
        self.assertEqual((listed["wants"], listed["basket"]["total"]), ([], "0.00"))
        record = self.get(f"jobs/{self.job(8).id}/record")
        self.assertIn("ordered", [entry["kind"] for entry in record])
        for row in Ordered.objects.select_related("part"):
            before = Part.objects.get(id=row.part_id).quantity
            self.post(f"orders/{row.id}/receive", {"quantity": 0}, 422)
            self.post(f"orders/{row.id}/receive", {"quantity": row.quantity, "lot": "L9"})
            part = Part.objects.get(id=row.part_id)
            self.assertEqual((part.quantity, part.lot), (before + row.quantity, "L9"))
            self.post(f"orders/{row.id}/receive", {"quantity": 1}, 404)
        self.assertEqual(self.get("shopping")["ordered"], [])

    def test_a_part_that_may_not_take_the_place_is_not_bought_for_it(self) -> None:
        wrong = Part.objects.get(marking="1 µF K 250 VDC")
        body = {"part_id": str(wrong.id), "position_id": str(self.position(2, "CX1").id)}
        self.assertEqual(self.post("shopping", body, 422)["errors"][0]["field"], "part_id")

    def test_a_job_says_what_it_waits_for(self) -> None:
        place = self.position(2, "CX1")
        part = self.get(f"positions/{place.id}/candidates")["accepted"][0]["part"]["id"]
        self.post("shopping", {"part_id": part, "position_id": str(place.id), "quantity": 1})
        waits = next(row["waits_for"] for row in self.get("bench") if row["job"]["number"] == 2)
        self.assertIn("on the shopping list", waits)
        self.assertEqual({row["job"]["number"]: row["waits_on"] for row in self.get("bench")}[2], "part")
        want = Want.objects.get(position=place)
        self.assertTrue(want.alternates)
        self.post(f"shopping/{want.id}/drop", {"version": 9}, 409)
        self.post(f"shopping/{want.id}/drop", {"version": 1})
        waits = next(row["waits_for"] for row in self.get("bench") if row["job"]["number"] == 2)
        self.assertNotIn("shopping", waits)
        self.assertEqual({row["job"]["number"]: row["waits_on"] for row in self.get("bench")}[2], "hands")

    def test_what_comes_in_two_parts_and_what_never_comes(self) -> None:
        first = self.get("shopping")["basket"]["parcels"][0]
        self.post("orders", {"supplier_id": first["supplier_id"], "total": first["total"]})
        row = max(Ordered.objects.all(), key=lambda one: one.quantity)
        before = Part.objects.get(id=row.part_id).quantity
        self.post(f"orders/{row.id}/receive", {"quantity": 1, "lot": "A"})
        left = next(one for one in self.get("shopping")["ordered"] if one["id"] == str(row.id))
        self.assertEqual((left["received"], left["quantity"]), (1, row.quantity))
        self.post(f"orders/{row.id}/receive", {"quantity": 0, "closed": True})
        self.assertEqual(Part.objects.get(id=row.part_id).quantity, before + 1)
        self.assertNotIn(str(row.id), [one["id"] for one in self.get("shopping")["ordered"]])
        wanted = next(one for one in self.get("shopping")["wants"] if one["id"] == str(row.want_id))
        self.assertEqual(wanted["left"], row.quantity - 1 + (wanted["quantity"] - row.quantity))

    def test_the_list_takes_as_many_statements_however_long_it_is(self) -> None:
        parts = [part["id"] for part in self.get("parts")[:40]]
        for chunk in (parts[:5], parts[5:]):
            with self.assertNumQueries(7):  # session, member; wants, orders, suppliers, offers in short, those that may be taken
                self.get("shopping")
            for part in chunk:
                self.post("shopping", {"part_id": part, "quantity": 2})

    def test_prices_typed_are_kept_and_bad_ones_named(self) -> None:
        part, supplier = self.get("parts")[0]["id"], self.get("suppliers")[0]["id"]
        put = {"supplier_id": supplier, "part_id": part}
        self.assertEqual(self.post("offers", put | {"prices": "1: 0,42; 10: 0.36"})["prices"], "1: 0.42, 10: 0.36")
        for prices_, says in (
            ("", "no price break"), ("dear", "no price break"), ("10: 1, 1: 2", "in order"), ("1: 1, 1: 2", "in order"),
            ("0: 1", "in order"), ("1: 1e9", "no price break"), ("1: -1", "no price break"), ("1: 0.123", "no price break"),
        ):  # fmt: skip
            error = self.post("offers", put | {"prices": prices_}, 422)["errors"][0]
            self.assertEqual(error["field"], "prices")
            self.assertIn(says, error["sentence"])
        self.sign_in("vell")
        self.post("offers", put | {"prices": "1"}, 403)
        self.sign_in("stranger")
        self.post("offers", put | {"prices": "1"}, 422)
        self.assertEqual(self.get("suppliers"), [])
        self.get(f"parts/{part}/offers", 404)

    def test_old_prices_say_so(self) -> None:
        offer = Offer.objects.select_related("part").first()
        assert offer
        for days, says in ((0, ""), (2, "price of"), (9, "ask again")):
            Offer.objects.filter(id=offer.id).update(at=timezone.now() - datetime.timedelta(days=days))
            shown = next(row for row in self.get(f"parts/{offer.part_id}/offers") if row["id"] == str(offer.id))
            self.assertIn(says, shown["stale"])
            self.assertEqual(bool(shown["stale"]), bool(says))


class Service(ApiTest):
    """Prices asked over HTTP."""

    def renew(self, url: str) -> Any:
        with override_settings(PRICE_SERVICE_URL=url):
            return self.done(self.post("prices", {}, 202))["answer"]

    def test_the_stand_in_renews_what_it_knows(self) -> None:
        Offer.objects.update(at=timezone.now() - datetime.timedelta(days=30))
        before = dict(Offer.objects.filter(supplier__service_code="saltpan").values_list("code", "breaks"))
        with served(prices) as url:
            answer = self.renew(url)
        self.assertEqual(answer["silent"], [])
        self.assertEqual(answer["renewed"], Offer.objects.exclude(supplier__service_code="").count())
        changed = [o for o in Offer.objects.filter(supplier__service_code="saltpan") if o.breaks != before[o.code]]
        self.assertTrue(changed)
        self.assertFalse(Offer.objects.filter(supplier__service_code="", at__gt=timezone.now() - datetime.timedelta(days=1)))

    def test_whatever_goes_wrong_the_old_prices_stand_and_it_is_said(self) -> None:
        before = list(Offer.objects.order_by("id").values_list("id", "breaks", "at"))
        for content, status, says in (
            (b"", "200 OK", "no price list"), (b"[]", "200 OK", "no price list"), (b"\xff\xfe", "200 OK", "no price list"),
            (b"{" * 50_000, "200 OK", "no price list"), (b'{"quotes": [{"code": "x", "breaks": []}]}', "200 OK", "no price list"),
            (b'{"quotes": [{"code": "x", "breaks": [[1, "NaN"]]}]}', "200 OK", "no price list"),
            (b'{"quotes": [{"code": "x", "breaks": [[1, -4]]}]}', "200 OK", "no price list"),
            (b"x" * 1_000_002, "200 OK", "too much"), (b"{}", "500 Internal Server Error", "error (500)"),
            (b"{}", "503 Service Unavailable", "error (503)"), (b"", "302 Found", "error (302)"),
        ):  # fmt: skip
            with self.subTest(status=status, content=content[:20]), served(answering(content, status)) as url:
                answer = self.renew(url)
                self.assertEqual((answer["renewed"], len(answer["silent"])), (0, 2))
                self.assertIn(says, answer["silent"][0])
        self.assertIn("does not answer", self.renew("http://127.0.0.1:9")["silent"][0])
        self.assertEqual(list(Offer.objects.order_by("id").values_list("id", "breaks", "at")), before)

    def test_without_a_service_prices_are_typed(self) -> None:
        with override_settings(PRICE_SERVICE_URL=""):
            self.assertEqual(self.post("prices", {}, 422)["errors"][0]["field"], "prices")


class Breaks(SimpleTestCase):
    """Price breaks as people type them."""

    def test_as_typed(self) -> None:
        for typed, read in (
            ("0.42", [(1, "0.42")]), ("1: 0.42, 10: 0.36", [(1, "0.42"), (10, "0.36")]),
            ("1x0,42;10x0,36", [(1, "0.42"), (10, "0.36")]), ("5 = 3", [(5, "3.00")]),
        ):  # fmt: skip
            self.assertEqual(breaks_of(typed), read)

    def test_a_service_that_hangs_up_is_silent(self) -> None:
        with self.assertRaises(Silent):
            ask_prices("http://127.0.0.1:9", "x", ["a"])
