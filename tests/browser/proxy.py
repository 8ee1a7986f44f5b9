"""A network between page and server that is as bad as it is told to be: it cuts, delays, loses answers, and hangs."""

import random
import socket
import threading
import time
from contextlib import suppress
from enum import StrEnum
from typing import Self

LATE_S = 2.0
LOST = 0.2  # of the answers
PIECE = 65536


class Network(StrEnum):
    """What it does just now."""

    GOOD = "good"
    LATE = "late"
    LOSES = "loses"
    HANGS = "hangs"
    CUT = "cut"


class Proxy:
    """Passes on what a page and a server say to each other, connection by connection."""

    def __init__(self, port: int, of: random.Random) -> None:
        self.to, self.of = port, of
        self.network = Network.GOOD
        self.lost = 0
        self.open = set[socket.socket]()
        self.listening = socket.create_server(("127.0.0.1", 0))
        self.port: int = self.listening.getsockname()[1]
        threading.Thread(target=self._take, daemon=True).start()

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self.listening.close()
        self.turn(Network.CUT)

    def turn(self, network: Network) -> None:
        """From now on it is like that; what is open when it is cut, or when it hung, ends."""
        before, self.network = self.network, network
        if Network.CUT in (before, network) or before == Network.HANGS:
            for one in list(self.open):
                self._end(one)

    def _end(self, *ones: socket.socket) -> None:
        for one in ones:
            self.open.discard(one)
            with suppress(OSError):
                one.shutdown(socket.SHUT_RDWR)
            one.close()

    def _take(self) -> None:
        while True:
            try:
                page, _ = self.listening.accept()
            except OSError:
                return
            if self.network == Network.CUT:
                page.close()
                continue
            self.open.add(page)
            threading.Thread(target=self._serve, args=(page,), daemon=True).start()

    def _serve(self, page: socket.socket) -> None:
        try:
            server = socket.create_connection(("127.0.0.1", self.to))
        except OSError:
            self._end(page)
            return
        self.open.add(server)
        threading.Thread(target=self._pass, args=(page, server, False), daemon=True).start()
        self._pass(server, page, True)

    def _pass(self, source: socket.socket, to: socket.socket, answers: bool) -> None:  # which way it goes
        with suppress(OSError):
            while piece := source.recv(PIECE):
                while self.network == Network.HANGS:
                    time.sleep(0.05)
                if answers and self.network == Network.LATE:
                    time.sleep(LATE_S)
                if answers and self.network == Network.LOSES and piece.startswith(b"HTTP/") and self.of.random() < LOST:
                    self.lost += 1
                    break  # the server has done it, and nobody hears so
                to.sendall(piece)
        self._end(source, to)
