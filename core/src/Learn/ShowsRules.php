<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that is a list of rules, of which the first that is met answers. */
interface ShowsRules extends Model
{
    /** @return list<ShownRule> in the order they answer */
    public function shownRules(): array;
}
