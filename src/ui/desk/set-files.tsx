/** The files of a set, one a line: pixels, format, bytes, what is seen, and name. */
import { Download } from "lucide-react";
import { formatName } from "@/core/brief";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import type { RowView, SetFileView } from "../api";

/** Height of a line, in px. */
export const SET_LINE = 24;

export function SetFiles({ row }: { row: RowView }) {
  return (
    <ul aria-label={`Files of ${row.name}`} className="py-1.5">
      {row.set?.map((file) => (
        <li
          key={`${file.width} ${file.format}`}
          className="figures grid grid-cols-[96px_46px_96px_minmax(70px,120px)_minmax(0,1fr)_24px] items-center gap-x-3 pr-3 max-[1150px]:grid-cols-[84px_40px_78px_minmax(0,1fr)_24px]"
          style={{ height: SET_LINE }}
        >
          <span>{formatSize(file.width, file.height)}</span>
          <span className="text-second">{formatName(file.format)}</span>
          <span className={`text-right ${row.figure === "about" ? "text-second" : "font-semibold"}`}>
            {bytesWords(file, row.figure === "about")}
          </span>
          <span className="text-second max-[1150px]:hidden">{seenWords(file)}</span>
          <span className="truncate text-second" title={file.name ?? undefined}>
            {file.name}
          </span>
          {file.itemId && (
            <a
              href={`/api/items/${file.itemId}/file`}
              download
              aria-label={`Take ${file.name}`}
              className="press grid size-6 place-items-center rounded-box hover:bg-wash"
            >
              <Download size={13} aria-hidden />
            </a>
          )}
        </li>
      ))}
    </ul>
  );
}

const bytesWords = ({ bytes }: SetFileView, about: boolean): string =>
  bytes === null ? "–" : `${about ? "about " : ""}${formatBytes(bytes)}`;

const seenWords = ({ difference, differenceAbout }: SetFileView): string =>
  difference === null ? "" : `differs ${differenceAbout ? "about " : ""}${trimNumber(difference, 2)}`;
