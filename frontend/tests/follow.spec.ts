/** Following a drawing: what is next by what stands in the line, what was pressed, and how many steps there are. */
import { beforeEach, describe, expect, it } from "vitest";
import { nextTick, ref } from "vue";
import { LESSONS } from "../src/board/lessons";
import { useFollow } from "../src/board/useFollow";

const text = ref("");
const choosing = ref(true);
const steps = ref(0);
const BEGINS: Record<string, string> = {
  "chain of lines": "chain ",
  "circle by centre and size": "circle ",
  "line tangent to two circles": "line touching ",
  fillet: "fillet ",
  chamfer: "chamfer ",
  "slot with round ends": "slot ",
};
const follow = useFollow({
  text,
  choosing,
  steps: () => steps.value,
  beginsOf: (kind) => BEGINS[kind] ?? kind,
  inScene: ([x, y]) => [x, -y],
});
const at = (x: number, y: number) => ({ at: [x, -y] as [number, number], reach: 3, pixel: 0.2 });

async function line(says: string): Promise<void> {
  text.value = says;
  choosing.value = !says;
  await nextTick();
}
/** Presses a place, and the line as it then stands. */
async function press(x: number, y: number, says: string): Promise<void> {
  follow.press(at(x, y));
  await line(says);
}

beforeEach(async () => {
  steps.value = 0;
  await line("");
  follow.begin("link", 0);
});

describe("a drawing that is followed", () => {
  it("goes from the kind to the places, what is typed, and Enter", async () => {
    expect(follow.next.value).toMatchObject({ how: "kind", kind: "circle by centre and size" });
    await line("circle ");
    expect(follow.next.value).toMatchObject({ how: "press", at: [0, -0] });
    await press(1, 0, "circle 0, 0; ");
    expect(follow.next.value?.how).toBe("type");
    await line("circle 0, 0; radius 2");
    expect(follow.next.value?.how).toBe("type");
    await line("circle 0, 0; radius 20");
    expect(follow.next.value?.how).toBe("enter");
    await line("");
    steps.value = 1;
    await nextTick();
    expect(follow.stage.value).toBe(1);
    expect(follow.next.value?.how).toBe("kind");
    steps.value = 0; // undone
    await nextTick();
    expect(follow.stage.value).toBe(0);
  });
  it("says where a press went elsewhere, until it is taken back", async () => {
    await line("circle ");
    await press(30, 0, "circle 30, 0; ");
    expect(follow.next.value?.how).toBe("astray");
    await line("circle ");
    expect(follow.next.value?.how).toBe("press");
  });
  it("says that a different kind was begun, and that another step was drawn", async () => {
    await line("line 0, 0");
    expect(follow.next.value?.says).toContain("a different kind");
    await line("");
    steps.value = 1;
    await nextTick();
    expect(follow.next.value?.says).toContain("a different step");
    steps.value = 0;
    await nextTick();
    expect(follow.next.value?.how).toBe("kind");
  });
  it("goes on where it was left, and ends", async () => {
    follow.begin("link", 5);
    expect(follow.next.value?.how).toBe("kind");
    follow.begin("link", 6);
    expect(follow.next.value?.how).toBe("done");
    follow.begin("nothing of the kind", 0);
    expect(follow.next.value).toBeNull();
  });
  it("types only as the last of a step", () => {
    for (const { stages } of LESSONS)
      for (const { parts } of stages) expect(parts.slice(0, -1).every((p) => "press" in p)).toBe(true);
  });
});
