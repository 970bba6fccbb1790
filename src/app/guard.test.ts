import { refused } from "./guard";

const request = (headers: Record<string, string>, url = "http://localhost:3000/api/render") =>
  new Request(url, { method: "POST", body: "x", headers });

const status = (headers: Record<string, string>, types?: string[]): number | null =>
  refused(request(headers), types)?.status ?? null;

describe("the server's door", () => {
  it.each([
    [{ host: "localhost:3000" }],
    [{ host: "127.0.0.1:3000", origin: "http://127.0.0.1:3000" }],
    [{ host: "[::1]:3000", "sec-fetch-site": "same-origin" }],
    [{ host: "localhost", "sec-fetch-site": "none" }],
  ])("lets its own pages and the person in: %j", (headers) => {
    expect(status(headers)).toBeNull();
  });

  it.each([
    [{ host: "pampas.test" }, 421],
    [{ host: "localhost.evil.test:3000" }, 421],
    [{ host: "localhost:3000", origin: "http://evil.test" }, 403],
    [{ host: "localhost:3000", origin: "null" }, 403],
    [{ host: "localhost:3000", "sec-fetch-site": "cross-site" }, 403],
    [{ host: "localhost:3000", "sec-fetch-site": "same-site" }, 403],
  ])("keeps others out: %j", (headers, expected) => {
    expect(status(headers)).toBe(expected);
  });

  it("wants a body of a known type", () => {
    const types = ["application/jsonl"];
    expect(status({ host: "localhost" }, types)).toBe(415);
    expect(status({ host: "localhost", "content-type": "text/plain" }, types)).toBe(415);
    expect(
      status({ host: "localhost", "content-type": "application/jsonl; charset=utf-8" }, types),
    ).toBeNull();
  });

  it("knows names that it was told of", () => {
    process.env.PAMPAS_HOSTS = "studio.test, other.test";
    expect(status({ host: "studio.test:3000" })).toBeNull();
    delete process.env.PAMPAS_HOSTS;
    expect(status({ host: "studio.test:3000" })).toBe(421);
  });
});
