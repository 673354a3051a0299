"""An address in, bytes out: where pages come from, and what each may read and reach."""
