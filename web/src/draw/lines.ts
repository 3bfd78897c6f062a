/** Text broken into lines of at most so many letters, between words. */
export function lines(text: string, letters: number): string[] {
  const found: string[] = [];
  for (const word of text.split(" ").filter(Boolean)) {
    const last = found.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= letters)
      found[found.length - 1] = `${last} ${word}`;
    else found.push(word);
  }
  return found;
}
