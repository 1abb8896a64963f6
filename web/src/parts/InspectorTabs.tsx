import { Tabs } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

/** The column beside a drawing: two pages, one shown. */
export function InspectorTabs<Key extends string>({
  pages,
  shown,
  onShow,
}: {
  pages: readonly { key: Key; label: string; content: ReactNode }[];
  shown: Key;
  onShow: (key: Key) => void;
}): ReactElement {
  return (
    <Tabs.Root
      value={shown}
      onValueChange={(value) => {
        const page = pages.find(({ key }) => key === value);
        if (page) onShow(page.key);
      }}
      className="flex flex-col border-t border-ink bg-panel lg:w-[352px] lg:shrink-0 lg:border-t-0 lg:border-l"
    >
      <Tabs.List
        aria-label="Inspector"
        className="grid auto-cols-fr grid-flow-col border-b border-ink"
      >
        {pages.map(({ key, label }) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className="h-8 font-figure text-[15px] font-semibold focus-visible:outline-offset-[-3px] data-[state=active]:bg-ink data-[state=active]:text-paper"
          >
            {label}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {pages.map(({ key, content }) => (
        <Tabs.Content
          key={key}
          value={key}
          className="min-h-0 flex-1 overflow-y-auto focus-visible:outline-offset-[-3px]"
        >
          {content}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
