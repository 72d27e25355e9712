<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Setting;

/** A learner as a form shows it. */
final readonly class AboutLearner
{
    /**
     * @param list<string>  $tasks        what it can predict
     * @param list<Setting> $settings
     * @param bool          $quick        quick enough, as it stands, to be tried on every variant at one press
     * @param bool          $needsColumns whether there is anything to learn without a column
     */
    public function __construct(
        public string $name,
        public string $title,
        public string $explanation,
        public array $tasks,
        public array $settings,
        public bool $quick = false,
        public bool $needsColumns = true,
    ) {
    }
}
