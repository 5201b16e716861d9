import { useState } from "react";
import { Button } from "@/ui/Button";
import { pngOf } from "@/ui/pictures/save-picture";
import { useWords } from "./words";

interface Props {
  /** The report's private key. */
  report: string;
  number: string;
}

const SIZE = { width: 1200, height: 800 };

/** The certificate: a picture to share or to save, and a page to print. */
export function Certificate({ report, number }: Props) {
  const { say, language } = useWords();
  const [failed, setFailed] = useState(false);
  const address = (form: string) => `/api/v1/public/reports/${report}/certificate.${form}?language=${language}`;
  const name = `tag-${number.replace(/[^A-Za-z0-9]/g, "") || "report"}.png`;
  const picture = async () => {
    setFailed(false);
    const response = await fetch(address("svg"));
    if (!response.ok) throw new Error("no certificate");
    return pngOf(await response.blob(), SIZE, "#f6f1e6");
  };
  const save = async (share: boolean) => {
    try {
      const file = new File([await picture()], name, { type: "image/png" });
      if (share) return await navigator.share({ files: [file], title: say("certificate-title") });
      const link = document.createElement("a");
      link.href = URL.createObjectURL(file);
      link.download = name;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    } catch (failure) {
      // to close the phone's own sheet is no failure
      setFailed((failure as Error).name !== "AbortError");
    }
  };
  const shares = "share" in navigator;
  return (
    <div className="mt-4 flex flex-wrap gap-2">
      {shares && (
        <Button large look="ink" onClick={() => void save(true)}>
          {say("certificate-share")}
        </Button>
      )}
      <Button large look={shares ? "plain" : "ink"} onClick={() => void save(false)}>
        {say("certificate-picture")}
      </Button>
      <a
        className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3"
        href={address("pdf")}
        target="_blank"
        rel="noreferrer"
      >
        {say("certificate-pdf")}
      </a>
      {failed && (
        <p role="alert" className="basis-full text-signal">
          {say("send-failed")}
        </p>
      )}
    </div>
  );
}
