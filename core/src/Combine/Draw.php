<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

use Dokimos\Core\Random;

/**
 * Some of the records, drawn by chance without putting any back: each set of so many is as likely as any other. One record after the
 * other is taken with the chance that is left to it (selection sampling; Fan, Muller and Rezucha, J. Am. Stat. Assoc. 57 (1962) 387), so
 * that nothing but the drawn rows is held.
 */
final readonly class Draw implements Picking
{
    /** Random numbers fetched together. */
    private const TOGETHER = 4096;

    /** @throws CannotCombine Draw at least one record. */
    public function __construct(public int $records, public int $seed = 2026)
    {
        if ($records < 1) {
            throw new CannotCombine('Draw at least one record.');
        }
    }

    public function sentence(): string
    {
        return \sprintf(
            'draws %s record%s by chance, with seed %d',
            number_format($this->records),
            1 === $this->records ? '' : 's',
            $this->seed,
        );
    }

    public function count(int $rows): int
    {
        return min($rows, $this->records);
    }

    public function rows(int $rows): \Generator
    {
        $random = Random::stream($this->seed, 'draw');
        $shares = [];
        $at = 0;
        for ($row = 0, $wanted = $this->count($rows); $wanted > 0; ++$row) {
            if (!isset($shares[$at])) {
                $shares = Random::shares($random, min(self::TOGETHER, $rows - $row));
                $at = 0;
            }
            if ($shares[$at++] * ($rows - $row) < $wanted) {
                --$wanted;
                yield $row;
            }
        }
    }

    public function origins(array $names): array
    {
        return array_combine($names, array_map(static fn (string $name): array => ['own' => [$name], 'other' => []], $names));
    }

    public function toArray(): array
    {
        return ['kind' => 'draw', 'records' => $this->records, 'seed' => $this->seed];
    }
}
