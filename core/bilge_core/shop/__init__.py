"""What parts cost and how long they take to come: one table, that a workshop types over."""

from bilge_core.shop.own import OwnPart, is_own, own_part
from bilge_core.shop.parts import OF_THE_CAR, PARTS, ShopPart, bought_as

__all__ = ["OF_THE_CAR", "PARTS", "OwnPart", "ShopPart", "bought_as", "is_own", "own_part"]
