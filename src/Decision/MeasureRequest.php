<?php

declare(strict_types=1);

namespace App\Decision;

/** Which later table tells what came of a list's records. */
final readonly class MeasureRequest
{
    /**
     * @param string $outcome column with what came
     * @param string $event   value that is the event
     * @param string $key     column that tells records apart, as in the scored table
     */
    public function __construct(public int $tableId = 0, public string $outcome = '', public string $event = '', public string $key = '')
    {
    }
}
