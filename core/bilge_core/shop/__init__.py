"""What parts cost and how long they take to come: one table, that a workshop types over."""

from bilge_core.shop.parts import PARTS, ShopPart

__all__ = ["PARTS", "ShopPart"]
