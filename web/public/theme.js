// Before the first paint, so that a dark page never flashes white.
document.documentElement.dataset.theme = localStorage.getItem('theme') ?? 'light';
