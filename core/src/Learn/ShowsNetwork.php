<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model of columns that hang on the target and on each other. */
interface ShowsNetwork extends ShowsEvidence
{
    /** @return list<ShownNode> the one that tells most first */
    public function nodes(): array;
}
