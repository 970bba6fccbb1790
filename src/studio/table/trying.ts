import { type CommandInput } from "../../engine/command/commands";
import { type Session } from "./session";

/** Shows what commands would do, the newest only, one after the other. */
export class Trying {
  #next: CommandInput | null = null;
  #isAsking = false;

  constructor(readonly session: Session) {}

  show(command: CommandInput | null): void {
    if (!command) return;
    this.#next = command;
    if (!this.#isAsking) void this.#ask();
  }

  /** Nothing more is shown. */
  drop(): void {
    this.#next = null;
  }

  /** What is shown is taken back. */
  takeBack(): void {
    this.#next = null;
    void this.session.link.api.tryOut(null);
  }

  async #ask(): Promise<void> {
    this.#isAsking = true;
    while (this.#next) {
      const command = this.#next;
      this.#next = null;
      await this.session.link.api.tryOut(command);
    }
    this.#isAsking = false;
  }
}
