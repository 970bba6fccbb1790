"use client";

/** One of a few ways, side by side. */
export function Choice<T extends string>({
  label,
  of,
  value,
  choose,
}: {
  label: string;
  of: readonly (readonly [value: T, words: string, title?: string])[];
  value: T;
  choose: (value: T) => void;
}) {
  return (
    <div className="ways" role="radiogroup" aria-label={label}>
      {of.map(([name, words, title]) => (
        <button
          key={name}
          type="button"
          role="radio"
          aria-checked={name === value}
          title={title}
          onClick={() => choose(name)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}
