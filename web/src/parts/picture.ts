import barlow500 from "@fontsource/barlow-condensed/files/barlow-condensed-latin-500-normal.woff2?url";
import barlow600 from "@fontsource/barlow-condensed/files/barlow-condensed-latin-600-normal.woff2?url";

const NAMESPACE = "http://www.w3.org/2000/svg";

/** Colours of the theme as they are now: a saved drawing has no style sheet. */
function resolved(text: string): string {
  const style = getComputedStyle(document.documentElement);
  return text.replace(/var\((--[a-z0-9-]+)\)/g, (_, name: string) =>
    style.getPropertyValue(name).trim(),
  );
}

function fontFace(data: string, weight: number): string {
  return `@font-face{font-family:"Barlow Condensed";font-weight:${weight};src:url(${data}) format("woff2")}`;
}

async function asDataUrl(url: string): Promise<string> {
  const blob = await (await fetch(url)).blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error("The fonts of the drawing could not be read."));
    reader.readAsDataURL(blob);
  });
}

const widthOf = (drawing: SVGSVGElement): number =>
  drawing.clientWidth || Number(drawing.getAttribute("width"));
const heightOf = (drawing: SVGSVGElement): number =>
  drawing.clientHeight || Number(drawing.getAttribute("height"));

/** A copy of a drawing that needs nothing of the page but its fonts. */
function standingAlone(drawing: SVGSVGElement, behind: HTMLCanvasElement | null): SVGSVGElement {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const [width, height] = [widthOf(drawing), heightOf(drawing)];
  copy.setAttribute("xmlns", NAMESPACE);
  copy.setAttribute("viewBox", `0 0 ${width} ${height}`);
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  copy.setAttribute("font-family", '"Barlow Condensed", "Arial Narrow", sans-serif');
  copy.removeAttribute("class");
  copy.querySelectorAll("[data-screen-only]").forEach((element) => element.remove());
  if (behind) {
    const scene = document.createElementNS(NAMESPACE, "image");
    scene.setAttribute("href", behind.toDataURL("image/png"));
    scene.setAttribute("width", String(width));
    scene.setAttribute("height", String(height));
    copy.prepend(scene);
  }
  return copy;
}

/** Paper behind all of a drawing. */
function onPaper(copy: SVGSVGElement): void {
  const ground = document.createElementNS(NAMESPACE, "rect");
  ground.setAttribute("width", "100%");
  ground.setAttribute("height", "100%");
  ground.setAttribute("fill", "var(--paper)");
  copy.prepend(ground);
}

const written = (drawing: SVGSVGElement): string =>
  resolved(new XMLSerializer().serializeToString(drawing));

/**
 * A drawing on the screen as an SVG file that stands alone: colours and fonts in it, and
 * behind its lines what a canvas shows there.
 */
export async function svgFileOf(
  drawing: SVGSVGElement,
  behind: HTMLCanvasElement | null = null,
): Promise<string> {
  const copy = standingAlone(drawing, behind);
  onPaper(copy);
  const fonts = document.createElementNS(NAMESPACE, "style");
  const [medium, bold] = await Promise.all([asDataUrl(barlow500), asDataUrl(barlow600)]);
  const style = fontFace(medium, 500) + fontFace(bold, 600);
  // written in afterwards: a style element in the page itself is refused by the security policy
  fonts.setAttribute("id", "fonts");
  copy.prepend(fonts);
  return written(copy).replace(/<style id="fonts"\s*\/>/, `<style>${style}</style>`);
}

/** Words of a drawing onto a canvas: a picture made from SVG has none of the page's fonts. */
function writeWords(drawing: SVGSVGElement, context: CanvasRenderingContext2D): void {
  const page = drawing.getScreenCTM()?.inverse();
  if (!page) return;
  context.textBaseline = "alphabetic";
  context.lineJoin = "round";
  for (const words of drawing.querySelectorAll<SVGTextElement>("text:not([data-screen-only] *)")) {
    const place = words.getScreenCTM();
    if (!place) continue;
    const { a, b, c, d, e, f } = page.multiply(place);
    context.save();
    context.transform(a, b, c, d, e, f);
    let before = 0;
    const walker = document.createTreeWalker(words, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const text = node.textContent ?? "";
      const style = node.parentElement ? getComputedStyle(node.parentElement) : null;
      if (!style || before >= words.getNumberOfChars()) break;
      const { x, y } = words.getStartPositionOfChar(before);
      context.font = `${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
      if (style.stroke !== "none") {
        context.strokeStyle = style.stroke;
        context.lineWidth = parseFloat(style.strokeWidth);
        context.strokeText(text, x, y);
      }
      context.fillStyle = style.fill;
      context.fillText(text, x, y);
      before += text.length;
    }
    context.restore();
  }
}

/** The lines of a drawing as an image, without its words. */
async function imageOf(copy: SVGSVGElement): Promise<HTMLImageElement> {
  copy.querySelectorAll("text").forEach((words) => words.remove());
  const image = new Image();
  const url = URL.createObjectURL(new Blob([written(copy)], { type: "image/svg+xml" }));
  try {
    await new Promise((resolve, reject) => {
      image.onload = resolve;
      image.onerror = () => reject(new Error("The drawing could not be turned into a picture."));
      image.src = url;
    });
  } finally {
    URL.revokeObjectURL(url);
  }
  return image;
}

/** A drawing as the screen shows it, with the scene behind it, at a place of a canvas. */
export async function drawOn(
  context: CanvasRenderingContext2D,
  drawing: SVGSVGElement,
  behind: HTMLCanvasElement | null,
  x: number,
  y: number,
): Promise<void> {
  const image = await imageOf(standingAlone(drawing, null));
  const { width, height } = image;
  if (behind) context.drawImage(behind, x, y, width, height);
  context.drawImage(image, x, y, width, height);
  context.save();
  context.translate(x, y);
  writeWords(drawing, context);
  context.restore();
}

/** A drawing on the screen as a PNG at twice its size. */
export async function pngOf(
  drawing: SVGSVGElement,
  behind: HTMLCanvasElement | null = null,
): Promise<Blob> {
  const canvas = document.createElement("canvas");
  canvas.width = 2 * widthOf(drawing);
  canvas.height = 2 * heightOf(drawing);
  const context = canvas.getContext("2d");
  if (context) {
    context.scale(2, 2);
    context.fillStyle = resolved("var(--paper)");
    context.fillRect(0, 0, canvas.width, canvas.height);
    await drawOn(context, drawing, behind, 0, 0);
  }
  return new Promise<Blob>((resolve, reject) => {
    canvas.toBlob((blob) => {
      if (blob) resolve(blob);
      else reject(new Error("The picture could not be made."));
    });
  });
}

/** Give the user a file. */
export function saveFile(name: string, contents: Blob | string, type = "text/plain"): void {
  const url = URL.createObjectURL(
    typeof contents === "string" ? new Blob([contents], { type }) : contents,
  );
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
