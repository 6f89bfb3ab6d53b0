// Before the first paint: the lamp is on or off as it was left.
document.documentElement.dataset.theme = localStorage.getItem('bistre.theme') === 'off' ? 'off' : 'on';
// What the page will ask for first is asked for while its scripts are read.
{
  const batch = /^\/batches\/[0-9a-f-]{36}(?=\/|$)/.exec(location.pathname);
  const path = location.pathname === '/' ? '/api/batches?closed=no' : batch ? `/api${batch[0]}` : null;
  if (path) window.bistreEarly = { path, answer: fetch(path).catch(() => null) };
}
