<?php

declare(strict_types=1);

namespace App\Preparation;

use Dokimos\Core\Prepare\BinsLook;
use Dokimos\Core\Prepare\LearnedLook;
use Dokimos\Core\Prepare\Look;
use Dokimos\Core\Prepare\Treatments;

/** One step looked at closely. */
final readonly class LookView
{
    /**
     * @param list<CandidateView> $columns as the step finds them
     * @param ?Look               $look    null when the step cannot be done
     * @param ?BinsLook           $bins    for bins of one column
     * @param list<Treatments>    $ways    other ways to treat the missing cells of one column of numbers
     * @param ?LearnedLook        $learned what it learned, where a sentence is not enough
     */
    public function __construct(
        public array $columns,
        public ?Look $look,
        public ?BinsLook $bins,
        public array $ways,
        public ?LearnedLook $learned,
    ) {
    }
}
