<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that knows how much it leans on each column. */
interface ShowsImportance extends Model
{
    /** @return list<array{column: string, share: float}> shares of all that was gained while fitting, largest first */
    public function importance(): array;
}
