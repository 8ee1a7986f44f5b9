"""The drawer: parts and what is printed on them."""
