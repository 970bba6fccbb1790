import { Refusal } from "../../engine/picture/refusal";
import { Said, whyOf } from "./why";

describe("why something failed", () => {
  beforeEach(() => jest.spyOn(console, "error").mockImplementation(() => undefined));
  afterEach(() => jest.restoreAllMocks());

  it.each([
    [new Refusal("“Ink” is locked."), "“Ink” is locked"],
    [Object.assign(new Error("it is missing"), { name: "Refusal" }), "it is missing"],
    [new Said("the server did not answer"), "the server did not answer"],
  ])("is said in our own words where they are ours", (error, words) => {
    expect(whyOf(error)).toBe(words);
    expect(console.error).not.toHaveBeenCalled();
  });

  it.each([
    [new DOMException("Failed to execute 'put' on 'IDBObjectStore'", "QuotaExceededError")],
    [new DOMException("The database connection is closing", "InvalidStateError")],
    [new TypeError("Failed to fetch")],
    [new RangeError("Array buffer allocation failed")],
    [new TypeError("Cannot read properties of undefined (reading 'x')")],
    ["a text that was thrown"],
  ])("never shows what %s says", (error) => {
    const words = whyOf(error);
    expect(words).toMatch(/^[a-z’ ]+$/);
    expect(words).not.toContain(typeof error === "string" ? error : error.message);
  });
});
