<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Numbers: one float per row, NAN = missing. */
final readonly class NumberColumn implements Column
{
    /** @param list<float> $values */
    public function __construct(public array $values)
    {
    }

    public function kind(): Kind
    {
        return Kind::Number;
    }

    public function count(): int
    {
        return \count($this->values);
    }

    public function missing(): int
    {
        $missing = 0;
        foreach ($this->values as $v) {
            if ($v !== $v) {
                ++$missing;
            }
        }

        return $missing;
    }

    public function isMissing(int $row): bool
    {
        return is_nan($this->values[$row]);
    }

    public function text(int $row): ?string
    {
        $value = $this->values[$row];

        return is_nan($value) ? null : self::write($value);
    }

    /** The shortest decimal that gives back the same double. */
    public static function write(float $value): string
    {
        return $value === floor($value) && abs($value) < 1e15 ? (string) (int) $value : json_encode($value, \JSON_THROW_ON_ERROR);
    }

    public function take(array $rows): static
    {
        $values = [];
        foreach ($rows as $row) {
            $values[] = $this->values[$row];
        }

        return new static($values);
    }
}
