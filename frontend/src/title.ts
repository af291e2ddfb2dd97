/** What the window is called and what is announced when a page comes: its place, and what or whom it is about. */
import { readonly, ref, watchEffect } from "vue";

const title = ref("Even Mark");
let place = "Even Mark";

function put(words: string): void {
  title.value = words;
  document.title = words;
}
/** A page of this place comes; what it is about follows when it is known. */
export function setPlace(word: string): void {
  place = word;
  put(word === "Even Mark" ? word : `${word} · Even Mark`);
}
/** Names what a page is about, as soon as that is known. */
export function useTitle(about: () => string | null | undefined): void {
  watchEffect(() => {
    const words = about();
    if (words) put(`${words} · ${place} · Even Mark`);
  });
}
export const announced = readonly(title);

/** How a page scrolls by itself: at once for who wants little motion. */
export const calmly = (): ScrollBehavior =>
  window.matchMedia("(prefers-reduced-motion: reduce)").matches ? "auto" : "smooth";
