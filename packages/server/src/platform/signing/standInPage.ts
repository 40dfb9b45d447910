const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The page on which somebody signs with the stand-in. */
export const signingPage = (
  { title, message, why }: { title: string; message: string; why: string },
  { name, signedAt }: { name: string; signedAt: string | null },
): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escaped(title)}</title>
<style>
body { font: 16px/1.5 sans-serif; max-width: 36rem; margin: 3rem auto; padding: 0 1rem; color: #12222a; }
button { font: inherit; padding: .5rem 1rem; border: 1px solid #0b5364; background: #0b5364; color: #fff; }
.plain { background: #fff; color: #12222a; border-color: #8a9aa2; }
input { font: inherit; padding: .4rem; width: 100%; box-sizing: border-box; }
</style>
</head>
<body>
<p>Signing service of the demo</p>
<h1>${escaped(title)}</h1>
<p>${escaped(message)}</p>
${
  why
    ? `<p role="status">${escaped(why)}</p>`
    : signedAt
      ? `<p role="status">${escaped(name)} has signed.</p>`
      : `<form method="post">
<p><button name="does" value="sign">Sign as ${escaped(name)}</button></p>
<p><label>Why not <input name="why" maxlength="500"></label></p>
<p><button class="plain" name="does" value="decline">Reject</button></p>
</form>`
}
</body>
</html>`;
