"""What is seen of a page: pictures of it in, contrast, targets and focus indicators out (`murvel.stage.seen`)."""
