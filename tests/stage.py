"""A server of its own for measurements: an empty database, the demo in it, and `scripts/serve` before it."""

import contextlib
import os
import secrets
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import psycopg
import urllib3

ROOT = Path(__file__).resolve().parents[1]
PASSWORD = secrets.token_hex(12)
JSON = {"Content-Type": "application/json"}


class Stage:
    """The database `name`, made anew, and a server on `port`; both gone again at the end."""

    def __init__(self, name: str, port: int) -> None:
        self.name, self.port, self.url = name, port, f"http://127.0.0.1:{port}"
        owner, application = (
            os.environ["DATABASE_OWNER_URL"],
            os.environ.get("APPLICATION_DATABASE_URL", os.environ["DATABASE_URL"]),
        )
        self._server = owner.rsplit("/", 1)[0]
        self.owner, application = f"{self._server}/{name}", f"{application.rsplit('/', 1)[0]}/{name}"
        self.environment = os.environ | {
            "DATABASE_URL": application, "DATABASE_OWNER_URL": self.owner, "PORT": str(port), "DEMO_PASSWORD": PASSWORD,
        }  # fmt: skip
        self.process: subprocess.Popen[bytes] | None = None

    def __enter__(self) -> "Stage":
        self.make()
        self.start()
        return self

    def make(self, *of_the_demo: str) -> None:
        """The database, with the demo in it, as `load_demo` is told."""
        self._drop()
        self._sql(f"CREATE DATABASE {self.name}")
        self.manage("migrate", "--noinput", "-v", "0")
        self.manage("load_demo", *of_the_demo)

    def __exit__(self, *_: object) -> None:
        self.kill()
        self._drop()

    def _drop(self) -> None:
        """A connection that was killed is seen to be gone a moment later."""
        for _ in range(50):
            with contextlib.suppress(psycopg.errors.ObjectInUse):
                return self._sql(f"DROP DATABASE IF EXISTS {self.name}")
            time.sleep(0.2)
        raise RuntimeError(f"{self.name} is in use")

    def _sql(self, *statements: str) -> None:
        with psycopg.connect(f"{self._server}/postgres", autocommit=True) as direct:
            for statement in statements:
                direct.execute(statement)

    def manage(self, *command: str) -> str:
        """A management command as the owner; what it printed."""
        run = [sys.executable, "manage.py", *command]
        environment = self.environment | {"DATABASE_URL": self.owner}
        done = subprocess.run(run, cwd=ROOT, env=environment, capture_output=True, text=True, check=False)
        if done.returncode:
            raise RuntimeError(done.stdout + done.stderr[-2000:])
        return done.stdout

    def start(self) -> None:
        """Start the server, and wait until it answers."""
        self.process = subprocess.Popen(
            ["scripts/serve"], cwd=ROOT, env=self.environment, start_new_session=True,
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        for _ in range(300):
            with contextlib.suppress(urllib3.exceptions.HTTPError):
                if urllib3.request("GET", f"{self.url}/healthz", retries=False, timeout=2).status == 200:
                    return
            time.sleep(0.1)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        """Kill the server and all its processes at once, as a power cut would."""
        if self.process:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()


class Technician:
    """A signed-in client over HTTP, with the cookies and the token a browser would have."""

    def __init__(self, url: str, username: str) -> None:
        self.url, self.http = url, urllib3.PoolManager(maxsize=1, retries=False, timeout=20)
        self.cookies: dict[str, str] = {}
        self.ask("GET", "/")
        self.ask("POST", "/api/session", {"username": username, "password": PASSWORD})

    def ask(self, method: str, path: str, body: Any = None, **headers: str) -> urllib3.BaseHTTPResponse:
        """One request; what the server sets is kept."""
        cookies = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        sent = JSON | {"Cookie": cookies, "X-CSRFToken": self.cookies.get("csrftoken", "")} | headers
        return self._noted(self.http.request(method, self.url + path, json=body, headers=sent))

    def send_file(self, path: str, name: str, content: bytes) -> urllib3.BaseHTTPResponse:
        """A file, as a form sends it."""
        cookies = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        sent = {"Cookie": cookies, "X-CSRFToken": self.cookies.get("csrftoken", "")}
        return self._noted(self.http.request("POST", self.url + path, fields={"file": (name, content)}, headers=sent))

    def _noted(self, answer: urllib3.BaseHTTPResponse) -> urllib3.BaseHTTPResponse:
        for line in answer.headers.getlist("Set-Cookie"):
            name, value = line.split(";")[0].split("=", 1)
            self.cookies[name] = value
        return answer
