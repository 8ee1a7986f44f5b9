"""Serve the stand-in for suppliers' price service on loopback."""

from typing import Any
from wsgiref.simple_server import make_server

from django.core.management.base import BaseCommand, CommandParser

from dusky_heron.demo.price_stand_in import prices


class Command(BaseCommand):
    """For the demo; until a signal."""

    help = "Serve the demo's price service on loopback."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to listen."""
        parser.add_argument("--port", type=int, required=True)

    def handle(self, *_: Any, **options: Any) -> None:
        """Serve."""
        with make_server("127.0.0.1", options["port"], prices) as server:
            server.serve_forever()
