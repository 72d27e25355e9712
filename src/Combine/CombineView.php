<?php

declare(strict_types=1);

namespace App\Combine;

use Dokimos\Core\Combine\CombineToll;

/** What following a combination would cost, and its first records. */
final readonly class CombineView
{
    /**
     * @param list<string>            $names
     * @param list<list<string|null>> $records the first ten
     * @param ?string                 $sealed  what stays empty because it is sealed
     */
    public function __construct(public string $sentence, public CombineToll $toll, public array $names, public array $records, public ?string $sealed = null)
    {
    }
}
