import { expect, test, vi } from "vitest";
import { Refusal } from "../src/api/client";
import { patiently } from "../src/board/patient";

const away = () => new Refusal(0, "no-connection", "The server cannot be reached.");

test("what was pressed is asked again while nobody can be reached", async () => {
  vi.useFakeTimers();
  const ask = vi.fn<() => Promise<string>>();
  ask.mockRejectedValueOnce(away()).mockRejectedValueOnce(away()).mockResolvedValue("there");
  const found = patiently(ask);
  await vi.advanceTimersByTimeAsync(1000);
  expect(await found).toBe("there");
  expect(ask).toHaveBeenCalledTimes(3);
  vi.useRealTimers();
});

test("what was refused is not asked again, and in the end it is said that nobody is there", async () => {
  vi.useFakeTimers();
  const refused = vi.fn(() => Promise.reject(new Refusal(422, "unreadable", "It cannot be read.")));
  await expect(patiently(refused)).rejects.toThrow("It cannot be read.");
  expect(refused).toHaveBeenCalledTimes(1);
  const gone = vi.fn(() => Promise.reject(away()));
  const last = expect(patiently(gone)).rejects.toThrow("cannot be reached");
  await vi.advanceTimersByTimeAsync(20_000);
  await last;
  expect(gone).toHaveBeenCalledTimes(6);
  vi.useRealTimers();
});
