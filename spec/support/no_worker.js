delete Navigator.prototype.serviceWorker;
