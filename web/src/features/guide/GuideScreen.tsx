import { Link, useParams } from "@tanstack/react-router";
import Markdown from "react-markdown";
import { Empty } from "@/ui/Message";
import biologist from "../../../../docs/guide/biologist.md?raw";
import glossary from "../../../../docs/guide/glossary.md?raw";
import lead from "../../../../docs/guide/lead.md?raw";
import recorder from "../../../../docs/guide/recorder.md?raw";
import volunteer from "../../../../docs/guide/volunteer.md?raw";

/** The pictures of the guides: those of the documentation, taken anew with it. */
const PICTURES = import.meta.glob<string>(
  "../../../../docs/screenshots/{deck-day,settings-protocol,findings-size}.png",
  { eager: true, query: "?url", import: "default" },
);
const pictureOf = (source = "") =>
  Object.entries(PICTURES).find(([path]) => path.endsWith(source.replace("..", "")))?.[1];

/** The very text of docs/guide: an hour for each of those who begin. */
const GUIDES: Record<string, { title: string; text: string }> = {
  recorder: { title: "Recorder", text: recorder },
  lead: { title: "Lead", text: lead },
  biologist: { title: "Biologist", text: biologist },
  volunteer: { title: "Volunteer", text: volunteer },
  glossary: { title: "Glossary", text: glossary },
};

export function GuideScreen() {
  const { who } = useParams({ from: "/guide/$who" });
  const guide = GUIDES[who];
  return (
    <main className="mx-auto max-w-3xl px-4 py-5">
      <nav aria-label="Guides" className="flex gap-1 border-b border-line">
        {Object.entries(GUIDES).map(([each, { title }]) => (
          <Link
            key={each}
            to="/guide/$who"
            params={{ who: each }}
            className="inline-flex min-h-[44px] items-end border-b-3 border-transparent px-3 pb-1.5"
            activeProps={{ className: "border-ink! font-semibold" }}
          >
            {title}
          </Link>
        ))}
      </nav>
      {guide ? (
        <article className="guide">
          <Markdown components={{ img: ({ src, alt }) => <img src={pictureOf(String(src))} alt={alt} /> }}>
            {guide.text}
          </Markdown>
        </article>
      ) : (
        <Empty>There is no guide by that name. Choose one above.</Empty>
      )}
    </main>
  );
}
