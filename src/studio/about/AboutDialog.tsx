"use client";

import { useEffect, useState } from "react";
import { Modal } from "react-bootstrap";
import { ENGINE_REVISION } from "../../engine/revision";
import { whyOf } from "../notices/why";
import { type About, packagesLike, readAbout } from "./about";

/** Its version, its licence, and what of others comes with it. */
export function AboutDialog({ hide }: { hide: () => void }) {
  const [about, setAbout] = useState<About | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [typed, setTyped] = useState("");
  useEffect(() => {
    readAbout().then(setAbout, (error: unknown) => setFault(whyOf(error)));
  }, []);
  const found = about ? packagesLike(about.packages, typed) : [];
  return (
    <Modal
      show
      onHide={hide}
      animation={false}
      scrollable
      dialogClassName="about-dialog"
      aria-labelledby="about-title"
    >
      <Modal.Header closeButton>
        <Modal.Title id="about-title">About Pampas</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {fault !== null && (
          <p className="warning" role="alert">
            What comes with Pampas could not be read: {fault}.
          </p>
        )}
        {about && (
          <>
            <div className="about-head">
              {/* eslint-disable-next-line @next/next/no-img-element -- a tiny file of our own */}
              <img src="/favicon.svg" alt="" width={56} height={56} />
              <div>
                <strong>Pampas {about.version}</strong>
                <div className="quiet">Painting engine: revision {ENGINE_REVISION}</div>
                <div className="quiet">
                  Pictures stay in this browser. Nothing is sent anywhere unless you ask for it.
                </div>
              </div>
            </div>
            <details className="about-licence">
              <summary>Licence: MIT</summary>
              <pre tabIndex={0}>{about.licence}</pre>
            </details>
            <h3 className="about-others">
              What comes with it <span className="quiet">{about.packages.length} packages</span>
            </h3>
            <input
              className="form-control mb-2"
              type="search"
              aria-label="Find a package or a licence"
              placeholder="Find a package or a licence"
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
            <ul className="about-packages" aria-label="Packages">
              {found.map(({ name, version, licence, text }) => (
                <li key={`${name} ${version}`}>
                  <details>
                    <summary>
                      <span className="flex-fill">{name}</span>
                      <span className="quiet">{version}</span>
                      <span className="licence">{licence}</span>
                    </summary>
                    <pre tabIndex={0}>
                      {text || "This package brings no licence file of its own."}
                    </pre>
                  </details>
                </li>
              ))}
            </ul>
            {found.length === 0 && <p className="quiet">Nothing is called so.</p>}
          </>
        )}
      </Modal.Body>
    </Modal>
  );
}
