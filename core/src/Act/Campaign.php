<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/**
 * What contacting people by their score costs and brings. A contact costs c; of those with the event a share r accepts an offer that
 * costs o and keeps a share q of the value: gain = event × r × (q × value − o) − c. Definitions: docs/methods/campaign.md.
 */
final readonly class Campaign
{
    /**
     * @param array{tp: float, fp: float, fn: float, tn: float} $matrix amounts per record, positive = gain
     */
    public function __construct(private Economics $economics, private array $matrix)
    {
    }

    /**
     * @param list<float> $score  chance of the event
     * @param list<float> $actual 1 = the event
     * @param list<float> $value
     *
     * @return array<string, mixed> named as in the reference
     */
    public function report(array $score, array $actual, array $value): array
    {
        $n = \count($score);
        $order = range(0, max(0, $n - 1));
        usort($order, static fn (int $a, int $b) => $score[$b] <=> $score[$a] ?: $a <=> $b);
        $events = array_sum($actual);
        $expected = $realised = [];
        foreach ($score as $i => $s) {
            $expected[] = $this->economics->expected($s, $value[$i]);
            $realised[] = $this->economics->expected($actual[$i], $value[$i]);
        }
        $cutoffs = $deciles = [];
        $sums = [0.0, 0.0];
        $hits = 0.0;
        $ends = [];
        for ($k = 1; $k <= 10; ++$k) {
            $ends[intdiv($k * $n, 10)][] = $k;
        }
        foreach ($order as $place => $i) {
            $sums[0] += $realised[$i];
            $sums[1] += $expected[$i];
            $hits += $actual[$i];
            $contacted = $place + 1;
            $cost = $contacted * $this->economics->cost;
            $money = [
                'contact_cost' => $cost,
                'realised_profit' => $sums[0],
                'expected_profit' => $sums[1],
                'realised_roi' => $cost > 0.0 ? $sums[0] / $cost : null,
                'expected_roi' => $cost > 0.0 ? $sums[1] / $cost : null,
            ];
            foreach ($ends[$contacted] ?? [] as $k) {
                $deciles[] = ['top_deciles' => $k, 'contacted' => $contacted, 'positives' => (int) $hits] + $money;
            }
            if (!isset($order[$place + 1]) || $score[$order[$place + 1]] !== $score[$i]) {
                $cutoffs[] = [
                    'cutoff' => $score[$i],
                    'contacted' => $contacted,
                ] + $money + ['matrix_profit' => $this->matrix['tp'] * $hits + $this->matrix['fp'] * ($contacted - $hits)
                    + $this->matrix['fn'] * ($events - $hits) + $this->matrix['tn'] * ($n - $contacted - $events + $hits)];
            }
        }
        $chosen = array_keys(array_filter($expected, static fn (float $g) => $g > 0.0));

        return [
            'cutoffs' => $cutoffs,
            'best' => [
                'realised_profit' => self::best($cutoffs, 'realised_profit'),
                'expected_profit' => self::best($cutoffs, 'expected_profit'),
                'matrix_profit' => self::best($cutoffs, 'matrix_profit'),
            ],
            'top_deciles' => $deciles,
            'contact_nobody' => ['profit' => 0.0, 'matrix_profit' => $this->matrix['fn'] * $events + $this->matrix['tn'] * ($n - $events)],
            'individual_rule' => [
                'contacted' => \count($chosen),
                'expected_profit' => array_sum(array_map(static fn (int $i) => $expected[$i], $chosen)),
                'realised_profit' => array_sum(array_map(static fn (int $i) => $realised[$i], $chosen)),
                'first_10_expected_gain' => \array_slice($expected, 0, 10),
            ],
            'break_even_score_first_10' => array_map($this->economics->breakEven(...), \array_slice($value, 0, 10)),
        ];
    }

    /**
     * The highest; of equal ones the higher cut-off, which comes first.
     *
     * @param list<array<string, float|int|null>> $cutoffs
     *
     * @return ?array{cutoff: float|int|null, value: float|int|null, contacted: float|int|null}
     */
    private static function best(array $cutoffs, string $by): ?array
    {
        $best = null;
        foreach ($cutoffs as $c) {
            if (null === $best || $c[$by] > $best['value']) {
                $best = ['cutoff' => $c['cutoff'], 'value' => $c[$by], 'contacted' => $c['contacted']];
            }
        }

        return $best;
    }
}
