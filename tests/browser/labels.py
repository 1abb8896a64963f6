"""Reading where the words of drawings are on the screen: none over another, none cut."""

from __future__ import annotations

from typing import Any

from tests.browser.conftest import Page

_READ = """
const found = [];
const shown = (each) => {
  for (let at = each; at instanceof Element; at = at.parentElement) {
    const style = getComputedStyle(at);
    if (style.visibility === 'hidden' || style.display === 'none') return false;
  }
  return each.textContent.trim() !== '';
};
for (const svg of document.querySelectorAll('main svg')) {
  const sheet = svg.getBoundingClientRect();
  if (sheet.width < 40 || sheet.height < 40) continue;
  const texts = [...svg.querySelectorAll('text')].filter(shown);
  const boxes = texts.map((text) => text.getBoundingClientRect());
  const place = svg.closest('[aria-label]')?.getAttribute('aria-label') ?? 'a drawing';
  texts.forEach((text, i) => {
    const a = boxes[i];
    const says = text.textContent.trim();
    if (a.left < sheet.left - 1 || a.right > sheet.right + 1
        || a.top < sheet.top - 2 || a.bottom > sheet.bottom + 2)
      found.push(`${place.slice(0, 40)}: "${says}" leaves its sheet`);
    for (let j = i + 1; j < texts.length; j++) {
      const b = boxes[j];
      const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
      const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
      if (wide > 1.5 && high > 3)
        found.push(`${place.slice(0, 40)}: "${says}" over "${texts[j].textContent.trim()}"`);
    }
  });
}
return found;
"""


def faults(page: Page) -> list[str]:
    """What lies over something else or is cut, in words."""
    read: Any = page.driver.execute_script(_READ)
    return list(read)
