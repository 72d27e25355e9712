<?php

declare(strict_types=1);

namespace App\Preparation;

use Dokimos\Core\Prepare\BinsLook;
use Dokimos\Core\Prepare\Look;

/** One step looked at closely. */
final readonly class LookView
{
    /**
     * @param list<CandidateView> $columns as the step finds them
     * @param ?Look               $look    null when the step cannot be done
     * @param ?BinsLook           $bins    for bins of one column
     */
    public function __construct(public array $columns, public ?Look $look, public ?BinsLook $bins)
    {
    }
}
