<?php

declare(strict_types=1);

namespace App\Search;

use Dokimos\Core\Learners\Learners;

/** A setting that a search weighed. */
final readonly class TryView implements \JsonSerializable
{
    /**
     * @param string               $variant  letter of the preparation
     * @param string               $columns  what the choice of columns is called
     * @param array<string, mixed> $settings that the search varied
     * @param ?float               $value    the figure while searching, with its interval; it does not rank
     * @param ?string              $why      why it could not be fitted
     */
    public function __construct(
        public int $place,
        public string $learner,
        public string $title,
        public string $variant,
        public string $columns,
        public array $settings,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public float $seconds,
        public ?string $why,
    ) {
    }

    public static function of(SearchTry $try, SearchPlan $plan): self
    {
        $space = $plan->spaces[$try->space()];

        return new self(
            $try->place(), $space['learner'], Learners::title($space['learner']), $plan->variants[$try->variant()]['letter'],
            $plan->named[$try->choice()] ?? '', $try->settings(), $try->value(), $try->low(), $try->high(), $try->seconds(), $try->why(),
        );
    }

    /** @return array<string, mixed> usual settings are an object without any, not a list */
    public function jsonSerialize(): array
    {
        return ['settings' => (object) $this->settings] + get_object_vars($this);
    }
}
