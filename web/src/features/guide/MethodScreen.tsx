import { Link, useParams } from "@tanstack/react-router";
import Markdown from "react-markdown";
import remarkGfm from "remark-gfm";
import { Empty } from "@/ui/Message";

/** The very text of docs/methods: what each number means, by which formula, under what, and against what it was checked. */
const PAGES = Object.fromEntries(
  Object.entries(
    import.meta.glob<string>("../../../../docs/methods/*.md", { eager: true, query: "?raw", import: "default" }),
  ).map(([path, text]) => [path.split("/").at(-1)!.replace(".md", ""), text]),
);

const titleOf = (text: string) => /^# (.*)/.exec(text)?.[1] ?? "";

export function MethodScreen() {
  const { page } = useParams({ from: "/method/$page" });
  const text = PAGES[page];
  return (
    <main className="mx-auto max-w-3xl px-4 py-5">
      <nav aria-label="Methods" className="flex flex-wrap gap-x-1 border-b border-line">
        {Object.entries(PAGES).map(([each, its]) => (
          <Link
            key={each}
            to="/method/$page"
            params={{ page: each }}
            className="inline-flex min-h-[44px] items-end border-b-3 border-transparent px-2 pb-1.5"
            activeProps={{ className: "border-ink! font-semibold" }}
          >
            {titleOf(its)}
          </Link>
        ))}
      </nav>
      {text ? (
        <article className="guide">
          <Markdown remarkPlugins={[remarkGfm]}>{text}</Markdown>
        </article>
      ) : (
        <Empty>There is no method by that name. Choose one above.</Empty>
      )}
    </main>
  );
}
