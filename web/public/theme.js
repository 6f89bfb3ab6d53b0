// Before the first paint: the lamp is on or off as it was left.
document.documentElement.dataset.theme = localStorage.getItem('bistre.theme') === 'off' ? 'off' : 'on';
