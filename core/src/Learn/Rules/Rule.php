<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Rules;

use Dokimos\Core\Learn\Tree\Part;

/** If all parts are met and no rule before it answered, the record is one of its own. */
final readonly class Rule
{
    /**
     * @param array<array-key, Part> $path   by column; [] = every record left
     * @param int                    $class  the place of the class it points to
     * @param list<float>            $counts weight of each class among the rows that grew it and that no rule before it took
     * @param list<float>            $judged the same of rows kept back; [] when none were
     */
    public function __construct(public array $path, public int $class, public array $counts, public array $judged = [])
    {
    }

    public function sentence(): string
    {
        return [] === $this->path ? 'every other record' : Part::path($this->path);
    }

    /** @return array{path: list<array{string, array<string, mixed>}>, class: int, counts: list<float>, judged: list<float>} */
    public function toArray(): array
    {
        return ['path' => array_map(static fn (int|string $name, Part $part): array => [(string) $name, $part->toArray()], array_keys($this->path), array_values($this->path)), 'class' => $this->class, 'counts' => $this->counts, 'judged' => $this->judged];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{path: list<array{string, array{levels: ?list<string>, over: float|int|null, most: float|int|null, missing: ?bool, date: bool, only?: string}}>, class: int, counts: list<float|int>, judged: list<float|int>} $data */
        $path = [];
        foreach ($data['path'] as [$name, $part]) {
            $path[$name] = Part::fromArray($part);
        }

        return new self($path, $data['class'], array_map(floatval(...), $data['counts']), array_map(floatval(...), $data['judged']));
    }
}
