"use client";

import { Ellipsis } from "lucide-react";
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { Dropdown } from "react-bootstrap";
import { type PictureRecord } from "../../storage/records";
import { NameField } from "../naming/NameField";
import { sizeInWords } from "../files/lengths";

/** An address for PNG bytes, given back when they change. */
export function usePngAddress(png: Uint8Array | null): string | null {
  const address = useMemo(
    () =>
      png ? URL.createObjectURL(new Blob([new Uint8Array(png)], { type: "image/png" })) : null,
    [png],
  );
  useEffect(
    () => () => {
      if (address) URL.revokeObjectURL(address);
    },
    [address],
  );
  return address;
}

const relative = new Intl.RelativeTimeFormat("en", { numeric: "auto" });

function sinceInWords(when: number): string {
  const minutes = Math.round((when - Date.now()) / 60_000);
  if (minutes > -1) return "just now";
  if (minutes > -60) return relative.format(minutes, "minute");
  if (minutes > -60 * 24) return relative.format(Math.round(minutes / 60), "hour");
  return relative.format(Math.round(minutes / 60 / 24), "day");
}

export type CardActs = {
  rename: (id: string, title: string) => void;
  duplicate: (picture: PictureRecord) => void;
  throwAway: (picture: PictureRecord) => void;
};

export function PictureCard({ picture, acts }: { picture: PictureRecord; acts: CardActs }) {
  const [renaming, setRenaming] = useState(false);
  const address = usePngAddress(picture.thumbnail);
  const { id, title, width, height } = picture;
  return (
    <li className="picture-card" data-picture={id}>
      <Link
        className="sheet"
        href={`/table?picture=${id}`}
        prefetch={false}
        aria-label={`Open ${title}`}
      >
        {/* eslint-disable-next-line @next/next/no-img-element -- made in the browser */}
        {address && <img src={address} alt="" />}
      </Link>
      <div className="about">
        <div className="names">
          {renaming ? (
            <NameField
              label="Title"
              name={title}
              done={(name) => {
                setRenaming(false);
                if (name) acts.rename(id, name);
              }}
            />
          ) : (
            <div className="title" title={title}>
              {title}
            </div>
          )}
          <div className="quiet">
            {width} × {height} px · {sizeInWords(picture.bytes)} · {sinceInWords(picture.touched)}
          </div>
        </div>
        <Dropdown align="end">
          <Dropdown.Toggle as="button" bsPrefix="icon-button" aria-label={`More for ${title}`}>
            <Ellipsis size={18} />
          </Dropdown.Toggle>
          <Dropdown.Menu>
            <Dropdown.Item
              as="button"
              onClick={() => requestAnimationFrame(() => setRenaming(true))}
            >
              Rename
            </Dropdown.Item>
            <Dropdown.Item as="button" onClick={() => acts.duplicate(picture)}>
              Duplicate
            </Dropdown.Item>
            <Dropdown.Divider />
            <Dropdown.Item as="button" onClick={() => acts.throwAway(picture)}>
              Throw away
            </Dropdown.Item>
          </Dropdown.Menu>
        </Dropdown>
      </div>
    </li>
  );
}
