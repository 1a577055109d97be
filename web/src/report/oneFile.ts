/** Every rule of the page, with the fonts that it names put into it: nothing is fetched any more. */
async function styles(): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules].map((rule) => rule.cssText));
  const css = rules.join('\n');
  const found = new Set([...css.matchAll(/url\("?([^")]+\.woff2?)"?\)/g)].map((match) => match[1]!));
  let text = css;
  for (const url of found) {
    // Only one of the two kinds of font is needed.
    const data = url.endsWith('.woff') ? 'data:,' : await inlined(new URL(url, document.baseURI).href);
    text = text.replaceAll(url, data);
  }
  return text;
}

async function inlined(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
  let binary = '';
  for (const byte of bytes) binary += String.fromCharCode(byte);
  return `data:font/woff2;base64,${btoa(binary)}`;
}

/** The printed pages as one file that opens anywhere, without this program and without a network. */
export async function oneFile(printed: HTMLElement, title: string): Promise<string> {
  const body = printed.cloneNode(true) as HTMLElement;
  // Without a script nothing happens on a press; nobody has to pass it with the keyboard either.
  for (const acting of body.querySelectorAll('button, a')) acting.setAttribute('tabindex', '-1');
  const escaped = title.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  const policy = `default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:`;
  return `<!doctype html>
<html lang="en" data-theme="bright">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<title>${escaped}</title>
<style>${await styles()}</style>
</head>
<body><main${scope(printed)}>${body.outerHTML}</main></body>
</html>
`;
}

/** The marks by which rules of a component know its elements, of the element around it. */
function scope(printed: HTMLElement): string {
  const around = printed.closest('main');
  const names = around?.getAttributeNames().filter((name) => name.startsWith('data-v-')) ?? [];
  return names.map((name) => ` ${name}`).join('');
}

/** Hands the file to whoever asked for it. */
export async function shareAsOneFile(printed: HTMLElement, name: string): Promise<void> {
  const html = await oneFile(printed, name);
  const url = URL.createObjectURL(new Blob([html], { type: 'text/html' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
