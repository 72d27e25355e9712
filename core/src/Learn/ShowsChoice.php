<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model whose columns were chosen while it was fitted, where the settings asked for that. */
interface ShowsChoice extends Model
{
    /** @return list<array<string, mixed>> step by step; empty where nothing was chosen */
    public function trace(): array;
}
