"""Writing suppliers, offers, the shopping list and orders."""

from dusky_heron.buying.actions.asking import ask_for_prices
from dusky_heron.buying.actions.lists import came, drop_want, order_parcel, order_specified, receive, want_part
from dusky_heron.buying.actions.offers import add_supplier, edit_supplier, put_offer, put_offers

__all__ = [
    "add_supplier",
    "ask_for_prices",
    "came",
    "drop_want",
    "edit_supplier",
    "order_parcel",
    "order_specified",
    "put_offer",
    "put_offers",
    "receive",
    "want_part",
]
