"""The stock app."""

from django.apps import AppConfig


class StockConfig(AppConfig):
    """The drawer: parts and what is printed on them."""

    name = "dusky_heron.stock"
    label = "stock"
