"""What tests ask a page, answered by the page itself in one question."""

from __future__ import annotations

SHOWN = """
const found = document.evaluate(
  arguments[0], document, null, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE, null
);
const how = {checkOpacity: true, checkVisibilityCSS: true};
const all = Array.from({length: found.snapshotLength}, (_, at) => found.snapshotItem(at));
return all.filter((each) => each.checkVisibility(how) && each.getClientRects().length > 0);
"""
"""Elements at a path that can be seen: in one question, where WebDriver would ask for each."""
