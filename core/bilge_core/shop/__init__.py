"""What parts cost and how long they take to come: one table, that a workshop types over."""

from bilge_core.shop.parts import PARTS, ShopPart, bought_as

__all__ = ["PARTS", "ShopPart", "bought_as"]
