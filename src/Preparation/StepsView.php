<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Table\AskView;
use Dokimos\Core\Prepare\Described;

/** What a preparation can consist of. */
final readonly class StepsView
{
    /**
     * @param list<Described> $steps    kinds of steps with their settings
     * @param list<string>    $formulas what can stand in a formula, a line each
     * @param list<AskView>   $asks     what a column of each kind can be asked in a condition
     */
    public function __construct(public array $steps, public array $formulas, public array $asks)
    {
    }
}
