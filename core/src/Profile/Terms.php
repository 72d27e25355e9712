<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

use Dokimos\Core\Math\Distribution\ChiSquare;

/**
 * The words of a column of texts. A term is a run of at least two letters or digits, in lower case; a document is a text. Definitions:
 * docs/methods/text.md.
 */
final readonly class Terms
{
    /**
     * @param int                               $documents texts, missing ones not counted
     * @param array<array-key, int>             $counts    occurrences of each term, in byte order of the terms
     * @param array<array-key, int>             $texts     how many texts hold it
     * @param array<int, array<array-key, int>> $byRow     occurrences by row; rows without a text are left out
     */
    private function __construct(public int $documents, public array $counts, public array $texts, private array $byRow)
    {
    }

    /** @param list<?string> $cells */
    public static function of(array $cells): self
    {
        $counts = $texts = $byRow = [];
        foreach ($cells as $row => $cell) {
            if (null === $cell) {
                continue;
            }
            $own = array_count_values(self::split($cell));
            $byRow[$row] = $own;
            foreach ($own as $term => $n) {
                $counts[$term] = ($counts[$term] ?? 0) + $n;
                $texts[$term] = ($texts[$term] ?? 0) + 1;
            }
        }
        ksort($counts, \SORT_STRING);

        return new self(\count($byRow), $counts, $texts, $byRow);
    }

    /** @return list<string> words in the order of the text, lower case */
    public static function split(string $text): array
    {
        preg_match_all('/[\p{L}\p{M}\p{N}]{2,}/u', mb_strtolower(mb_scrub($text)), $found);

        return $found[0];
    }

    /** ln((1 + n) / (1 + df)) + 1 */
    public function idf(string $term): float
    {
        return log((1 + $this->documents) / (1 + ($this->texts[$term] ?? 0))) + 1.0;
    }

    /**
     * Occurrences times idf, divided by the Euclidean norm of the text.
     *
     * @return array<array-key, float> by term, in byte order; none for a row without a text
     */
    public function weights(int $row): array
    {
        $weights = [];
        $square = 0.0;
        $own = $this->byRow[$row] ?? [];
        ksort($own, \SORT_STRING);
        foreach ($own as $term => $n) {
            $weights[$term] = $n * $this->idf((string) $term);
            $square += $weights[$term] ** 2;
        }
        $norm = sqrt($square);

        return array_map(static fn (float $w) => $w / $norm, $weights);
    }

    /** How alike two texts are: the product of their weights, 0 to 1. */
    public function cosine(int $one, int $other): float
    {
        $a = $this->weights($one);
        $b = $this->weights($other);
        $sum = 0.0;
        foreach ($a as $term => $w) {
            $sum += $w * ($b[$term] ?? 0.0);
        }

        return $sum;
    }

    /** @return list<int> the rows whose text holds a term */
    public function rowsWith(string $term): array
    {
        return array_keys(array_filter($this->byRow, static fn (array $own) => isset($own[$term])));
    }

    /**
     * Terms by how strongly they go with a class: Pearson's chi-square of "the text holds it" by class, without correction.
     *
     * @param list<int> $classes by row, -1 = unknown
     *
     * @return list<array{term: string, chi2: float, df: int, p: float}> the strongest first, ties by the alphabet
     */
    public function tellingOf(array $classes, int $most): array
    {
        $sizes = $with = [];
        foreach ($this->byRow as $row => $own) {
            $class = $classes[$row];
            if ($class < 0) {
                continue;
            }
            $sizes[$class] = ($sizes[$class] ?? 0) + 1;
            foreach ($own as $term => $_) {
                $with[$term][$class] = ($with[$term][$class] ?? 0) + 1;
            }
        }
        $n = array_sum($sizes);
        $df = \count($sizes) - 1;
        $out = [];
        foreach ($with as $term => $by) {
            $holding = array_sum($by);
            if ($df < 1 || $holding === $n) {
                continue;
            }
            $chi2 = 0.0;
            foreach ($sizes as $class => $size) {
                $expected = $holding * $size / $n;
                // The column of texts without the term differs by the same amount.
                $chi2 += (($by[$class] ?? 0) - $expected) ** 2 * (1.0 / $expected + 1.0 / ($size - $expected));
            }
            $out[] = ['term' => (string) $term, 'chi2' => $chi2, 'df' => $df, 'p' => (new ChiSquare($df))->upper($chi2)];
        }
        usort($out, static fn (array $a, array $b) => round($b['chi2'], 10) <=> round($a['chi2'], 10) ?: strcmp($a['term'], $b['term']));

        return \array_slice($out, 0, $most);
    }
}
