<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** What stands beside a text in a list. */
final readonly class Lookup implements Expression
{
    /** @var list<array{string, float|string}> */
    public array $pairs;

    /**
     * @param array<array-key, float|string> $by      by text; all numbers, or all texts
     * @param float|string|null              $other   for a text that is not in the list; null = missing
     * @param float|string|null              $missing where the text is missing
     */
    public function __construct(public Expression $of, array $by, public float|string|null $other, public float|string|null $missing = null)
    {
        $pairs = [];
        foreach ($by as $text => $value) {
            $pairs[] = [(string) $text, $value];
        }
        $this->pairs = $pairs;
    }

    public function isText(): bool
    {
        foreach ([...array_column($this->pairs, 1), $this->other, $this->missing] as $value) {
            if (null !== $value) {
                return \is_string($value);
            }
        }

        return false;
    }

    public function parts(): array
    {
        return [$this->of];
    }

    /** @return array{lookup: Expression, pairs: list<array{string, float|string}>, other: float|string|null, missing: float|string|null} */
    public function jsonSerialize(): array
    {
        return ['lookup' => $this->of, 'pairs' => $this->pairs, 'other' => $this->other, 'missing' => $this->missing];
    }
}
