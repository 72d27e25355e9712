<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** A model of more than two classes: its predict() gives the chance of the last of them. */
interface TellsClasses extends Model
{
    /** @return list<string> in the order of the chances */
    public function classes(): array;

    /**
     * @param ?list<int> $rows all rows when null
     *
     * @return list<list<float>> per class, one chance per asked row; they add up to 1, and are NAN where the model cannot answer
     */
    public function shares(Table $table, ?array $rows = null): array;
}
