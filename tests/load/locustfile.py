"""Twenty technicians at work: mostly reading, a write in five; beside them a bare view, to hold the others against."""

import os
import random
import time
import uuid
from typing import Any

from locust import HttpUser, between, task

HEADERS = {"Content-Type": "application/json"}
MARKINGS = ("16 µF ±5 % 450 V~", "1 µF K X2 305 V~", "82 µF M 400 V", "µ68 K X2 275~")


class Technician(HttpUser):
    """One of them, signed in, on the jobs of the bench."""

    wait_time = between(0.3, 1.2)

    def on_start(self) -> None:
        """Sign in, and look at the bench."""
        self.client.get("/", name="page")
        username = random.choice(("orne", "vell"))
        body = {"username": username, "password": os.environ["DEMO_PASSWORD"]}
        self.sign_in(body)
        self.jobs = [row["job"]["id"] for row in self.client.get("/api/bench", name="first bench").json()]
        sheets = [self.client.get(f"/api/jobs/{job}/sheet", name="first sheet").json() for job in random.sample(self.jobs, 12)]
        self.places = [place["id"] for sheet in sheets for place in sheet["positions"]]
        self.meter = self.client.get("/api/meters", name="first meters").json()[0]["id"]

    def sign_in(self, body: Any) -> None:
        """Again after a while where many sign in at once."""
        while True:
            with self.client.post("/api/session", json=body, headers=self.token(), name="sign in", catch_response=True) as answer:
                if answer.status_code != 429:
                    return
                answer.success()
            time.sleep(float(answer.headers["Retry-After"]))

    def token(self, **more: Any) -> Any:
        return HEADERS | {"X-CSRFToken": self.client.cookies.get("csrftoken", "")} | more

    @property
    def job(self) -> str:
        return str(random.choice(self.jobs))

    @property
    def place(self) -> str:
        return str(random.choice(self.places))

    @task(6)
    def bare(self) -> None:
        """A view that does nothing but know who asks."""
        self.client.get("/api/session", name="bare")

    @task(3)
    def bench(self) -> None:
        self.client.get("/api/bench", name="read bench")

    @task(6)
    def sheet_of_a_job(self) -> None:
        self.client.get(f"/api/jobs/{self.job}/sheet", name="read sheet")

    @task(5)
    def beat(self) -> None:
        self.client.get(f"/api/jobs/{self.job}/beat", name="read beat")

    @task(3)
    def stage(self) -> None:
        self.client.get(f"/api/positions/{self.place}/assessment", name="read assessment")

    @task(2)
    def discharge(self) -> None:
        self.client.get(f"/api/positions/{self.place}/discharge", name="read discharge")

    @task(2)
    def candidates(self) -> None:
        self.client.get(f"/api/positions/{self.place}/candidates", name="read candidates")

    @task(2)
    def handback(self) -> None:
        self.client.get(f"/api/jobs/{self.job}/handback", name="read handback")

    @task(1)
    def record(self) -> None:
        self.client.get(f"/api/jobs/{self.job}/record", name="read record")

    @task(2)
    def box(self) -> None:
        self.client.get("/api/reading-box", params={"text": random.choice(MARKINGS)}, name="read box")

    @task(1)
    def search(self) -> None:
        self.client.get("/api/search", params={"q": f"pump {random.randrange(2000)}"}, name="read search")

    @task(1)
    def seen_before(self) -> None:
        self.client.get(f"/api/jobs/{self.job}/seen-before", name="read seen before")

    @task(4)
    def write_reading(self) -> None:
        body = {"value": f"{random.uniform(5, 20):.2f}u", "meter_id": self.meter}
        path = f"/api/positions/{self.place}/readings"
        self.client.post(path, json=body, headers=self.token(**{"Idempotency-Key": uuid.uuid4().hex}), name="write reading")

    @task(3)
    def write_sign(self) -> None:
        path = f"/api/positions/{self.place}/signs"
        self.client.post(path, json={"sign": "bulged"}, headers=self.token(), name="write sign")
