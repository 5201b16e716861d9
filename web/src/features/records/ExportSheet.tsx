import type { Selection } from "@/features/selection";
import { rowsQuery } from "@/features/selection";
import { useHere } from "@/session";
import { Sheet } from "@/ui/Sheet";

interface Props {
  /** What is asked for in the register: captures are exported as it chooses them. */
  selection: Selection;
  onClose: () => void;
}

/** Everything that can be taken home, by what it holds; open formats all. */
export function ExportSheet({ selection, onClose }: Props) {
  const { membership } = useHere();
  const to = `/api/v1/programmes/${membership.programme}`;
  const rows = rowsQuery(selection);
  const species = selection.species ? `?species=${selection.species}` : "";
  const ofSpecies = species ? "of this species" : "of all species";
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Export"
      description="Open formats; units stand in the names of the columns, times are UTC."
    >
      <div className="grid gap-4">
        <Files title="Captures" what="Every fish that the filters choose, used in a finding or not.">
          <File href={`${to}/captures.csv?${rows}`}>Captures CSV</File>
          <File href={`${to}/captures.xlsx?${rows}`}>Captures XLSX</File>
          <File href={`${to}/captures.zip?${rows}`}>Captures Data Package</File>
        </Files>
        <Files
          title="Marked fish"
          what={`Each time a marked fish was met, by crews, volunteers and finders, ${ofSpecies}.`}
        >
          <File href={`${to}/encounters.csv${species}`}>Encounters CSV</File>
          <File href={`${to}/encounters.geojson${species}`}>Encounters GeoJSON</File>
          <File href={`${to}/encounters.kml${species}`}>Encounters KML</File>
          <File href={`${to}/encounters.gpx${species}`}>Encounters GPX</File>
          {species && <File href={`${to}/encounter-histories.csv${species}`}>Histories by year, CSV of 0 and 1</File>}
          {species && (
            <File href={`${to}/encounter-histories.csv${species}&by=month`}>Histories by month, CSV of 0 and 1</File>
          )}
        </Files>
        <Files title="Reports of tags" what={`What finders reported, without their names and addresses, ${ofSpecies}.`}>
          <File href={`${to}/returns.csv${species}`}>Reports CSV</File>
          <File href={`${to}/marks.zip${species}`}>Encounters and reports, Data Package</File>
        </Files>
        <Files
          title="For a public archive"
          what="The whole programme: sampling events, fish, measurements. Places of protected species and numbers of tags are left out."
        >
          <File href={`${to}/darwin-core.zip`}>Darwin Core archive</File>
        </Files>
      </div>
    </Sheet>
  );
}

function Files({ title, what, children }: { title: string; what: string; children: React.ReactNode }) {
  return (
    <section>
      <h3 className="font-semibold">{title}</h3>
      <p className="pb-2 text-sm text-muted">{what}</p>
      <div className="flex flex-wrap gap-2">{children}</div>
    </section>
  );
}

function File({ href, children }: { href: string; children: React.ReactNode }) {
  return (
    <a
      className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
      href={href}
      download
    >
      {children}
    </a>
  );
}
