<?php

declare(strict_types=1);

namespace App\Search;

/** A try of a guided search, on one of its rungs. */
final readonly class ClimbView implements \JsonSerializable
{
    /**
     * @param int                  $rung     from 1
     * @param bool                 $made     whether it had what was made of the columns
     * @param array<string, mixed> $settings
     * @param ?int                 $reading  leaves, rules or terms
     */
    public function __construct(public int $place, public int $rung, public string $learner, public string $title, public bool $made, public array $settings, public ?float $value, public ?int $reading, public float $seconds, public ?string $why)
    {
    }

    /** @return array<string, mixed> usual settings are an object without any, not a list */
    public function jsonSerialize(): array
    {
        return ['settings' => (object) $this->settings] + get_object_vars($this);
    }
}
