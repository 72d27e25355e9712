<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** What a report is asked for beside the fit. */
final readonly class Reported
{
    /**
     * @param array<string, mixed> $settings that were given
     * @param bool                 $dropOne  whether each input is tested by leaving it out
     * @param ?Table               $new      prepared rows to predict
     */
    public function __construct(public array $settings = [], public bool $dropOne = false, public ?Table $new = null)
    {
    }
}
