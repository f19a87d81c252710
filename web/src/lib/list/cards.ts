/**
 * For a list that people carry: on a phone each row becomes a card, each cell under the heading of its column, so that nothing runs
 * off to the side. The headings are read from the table itself; app.css says how it looks.
 */
export function cards(table: HTMLElement) {
  const label = () => {
    const headings = [...table.querySelectorAll('thead th')].map((th) => th.textContent.trim());
    for (const row of table.querySelectorAll('tbody tr'))
      [...row.children].forEach((cell, i) => {
        const heading = cell.getAttribute('colspan') ? '' : (headings[i] ?? '');
        if (cell.getAttribute('data-label') !== heading) cell.setAttribute('data-label', heading);
      });
  };
  table.classList.add('cards');
  label();
  const watch = new MutationObserver(label);
  watch.observe(table, { childList: true, subtree: true });
  return () => watch.disconnect();
}
