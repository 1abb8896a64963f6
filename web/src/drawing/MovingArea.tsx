import { useId, type ReactElement } from "react";

/** Moving oil in a view: an area cut off at the outline, with its edge drawn where it is free. */
export function MovingArea({
  inside,
  area,
  fill,
  name,
}: {
  /** Path of the outline. */
  inside: string;
  area: string;
  fill: string;
  name: string;
}): ReactElement {
  const id = useId();
  return (
    <>
      <clipPath id={id}>
        <path d={inside} />
      </clipPath>
      <path
        d={area}
        fill={fill}
        fillRule="evenodd"
        stroke="var(--oil-deep)"
        strokeWidth="2"
        strokeLinejoin="round"
        clipPath={`url(#${id})`}
        data-oil={name}
        data-moving
      />
    </>
  );
}
