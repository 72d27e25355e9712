<?php

declare(strict_types=1);

namespace App\Trial;

/** Records of a later table that a trial knows besides those of its study: which of them, and what they are for. */
final readonly class Newer
{
    public const LEARN = 'learn';
    public const CALIBRATE = 'calibrate';
    public const USES = [self::LEARN, self::CALIBRATE];

    /**
     * @param int     $table its number
     * @param ?string $by    column they are in order of; null = as they come
     * @param int     $rows  the first so many
     * @param string  $use   one of USES: learned from in every fold, or what the study's records taught is calibrated on them
     * @param ?string $name  of the table; null in trials of versions that did not keep it
     */
    public function __construct(public int $table, public ?string $by, public int $rows, public string $use, public ?string $name)
    {
    }

    public function calibrates(): bool
    {
        return self::CALIBRATE === $this->use;
    }

    public function said(): string
    {
        return \sprintf(
            '%s %s newer records%s',
            $this->calibrates() ? 'calibrated on' : 'learned from',
            number_format($this->rows),
            null === $this->name ? '' : ' of '.$this->name,
        );
    }

    /** @return array{table: int, by: ?string, rows: int, use: string, name: ?string} */
    public function toArray(): array
    {
        return ['table' => $this->table, 'by' => $this->by, 'rows' => $this->rows, 'use' => $this->use, 'name' => $this->name];
    }

    /** @param array{table: int, by: ?string, rows: int, use?: string, name?: ?string} $kept */
    public static function fromArray(array $kept): self
    {
        return new self($kept['table'], $kept['by'], $kept['rows'], $kept['use'] ?? self::LEARN, $kept['name'] ?? null);
    }
}
