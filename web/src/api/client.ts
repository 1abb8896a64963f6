import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** A refusal by the server: what, where and what would be right. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    title: string,
    readonly problems: { field: string; message: string }[],
    /** The state in which a refused edit is kept beside the newer one. */
    readonly keptState: number | null = null,
  ) {
    super(title);
  }

  /** The message that belongs to a field, if any. */
  about(field: string): string | undefined {
    return this.problems.find((problem) => problem.field === field)?.message;
  }

  /** All of it in a sentence or two, its fields by the names that they are shown by. */
  words(shown: (field: string) => string | undefined = () => undefined): string {
    if (this.problems.length === 0) return this.message;
    return this.problems
      .map(({ field, message }) =>
        field === "build_id" ? `This build ${message}` : `${shown(field) ?? field}: ${message}`,
      )
      .join(". ");
  }
}

/** What went wrong, in words, whatever was thrown. */
export function wordsOf(error: unknown, shown?: (field: string) => string | undefined): string {
  if (error instanceof Refusal) return error.words(shown);
  if (error instanceof TypeError) return "Bilge does not answer. Is it running? Nothing was lost.";
  return error instanceof Error ? error.message : "Something went wrong.";
}

export function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

export async function refusalOf(response: Response): Promise<Refusal> {
  try {
    const body = (await response.json()) as Partial<Refusal> & {
      title?: string;
      kept_state?: number | null;
    };
    return new Refusal(
      response.status,
      body.title ?? "The server refused this.",
      body.problems ?? [],
      body.kept_state ?? null,
    );
  } catch {
    return new Refusal(response.status, `The server answered ${response.status}.`, []);
  }
}

const csrfAndErrors: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
  async onResponse({ response }) {
    if (!response.ok) throw await refusalOf(response);
    return undefined;
  },
};

export const client = createClient<paths>({ baseUrl: "/" });
client.use(csrfAndErrors);

/**
 * The body of an answer, as the schema of that name: openapi-fetch itself widens tuples to lists.
 */
export function bodyOf<Name extends keyof Schemas>(
  _name: Name,
  answer: { data?: unknown },
): Schemas[Name] {
  if (answer.data === undefined) throw new Error("The server sent an empty answer.");
  return answer.data as Schemas[Name];
}

/** The same for a list. */
export function listOf<Name extends keyof Schemas>(
  _name: Name,
  answer: { data?: unknown },
): Schemas[Name][] {
  if (!Array.isArray(answer.data)) throw new Error("The server sent no list.");
  return answer.data as Schemas[Name][];
}

/** Send a file as a form. */
export function fileForm(file: File, more: Readonly<Record<string, string>> = {}): FormData {
  const form = new FormData();
  form.append("file", file);
  for (const [key, value] of Object.entries(more)) form.append(key, value);
  return form;
}
