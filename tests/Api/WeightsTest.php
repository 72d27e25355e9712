<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** A column whose use is weight, from the Register to the seal. */
final class WeightsTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    /** @param array<string, mixed> $change */
    private function change(string $name, array $change, int $expected = 200): mixed
    {
        $column = $this->columns()[$name];

        return $this->call('PATCH', '/api/columns/'.$column['id'], $change, $expected, ['If-Match' => (string) $column['version']]);
    }

    /** @return array<string, array<string, mixed>> */
    private function columns(): array
    {
        /** @var array<string, array<string, mixed>> $columns */
        $columns = array_column($this->call('GET', '/api/tables/1')['columns'], null, 'name');

        return $columns;
    }

    /** @return array<string, mixed> */
    private function tried(string $learner): array
    {
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $trial = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => $learner], 202)['subject'];
        $this->work();
        $line = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id')[$trial];
        \assert(\is_array($line));
        self::assertSame('done', $line['state'], (string) json_encode($line['failure']));

        return $line;
    }

    public function testAWeightIsOneNumber(): void
    {
        self::assertStringContainsString('a weight is a number', $this->change('slot', ['use' => 'weight'], 422)['title']);
        $versions = array_column(array_intersect_key($this->columns(), ['days_ahead' => 1, 'travel_km' => 1]), 'version', 'id');
        $many = $this->call('POST', '/api/tables/1/columns', ['versions' => $versions, 'use' => 'weight', 'preview' => true]);
        self::assertSame([null, 'Records can count by one column only.'], array_column($many['columns'], 'refused'));
        $this->change('days_ahead', ['use' => 'weight']);
        self::assertStringContainsString('days_ahead is the weight already', $this->change('travel_km', ['use' => 'weight'], 409)['title']);
        self::assertStringContainsString('Give it another use first', $this->change('days_ahead', ['kind' => 'category'], 409)['title']);
        $this->change('days_ahead', ['use' => 'input']);
        $this->change('travel_km', ['use' => 'weight']);
        self::assertSame('weight', $this->columns()['travel_km']['use']);
    }

    public function testRecordsCountByItAndEarlierTrialsAreStale(): void
    {
        $before = $this->tried('logistic');
        self::assertNull($before['weight']);
        $this->change('days_ahead', ['use' => 'weight']);
        $after = $this->tried('logistic');
        self::assertSame(['days_ahead', []], [$after['weight'], $after['stale']]);
        self::assertNotContains('days_ahead', $this->judged($after['id'])['inputs']);
        self::assertGreaterThan($after['rows'], $after['weightSum'], 'whole numbers are counts');
        self::assertGreaterThan(0, $after['weightless'], 'visits booked for the same day count nothing');
        $lines = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id');
        self::assertIsArray($lines[$before['id']]);
        self::assertContains('records count otherwise: the column of weights has changed', $lines[$before['id']]['stale']);
        $distances = $this->call('GET', '/api/studies/1/trials')['distances'];
        self::assertSame(
            [null, null],
            [$distances[0]['noise'], $distances[0]['low']],
            'what is stale is not compared, and not called within noise',
        );
        $figures = $this->judged($after['id'])['figures'];
        self::assertTrue($figures['auc']['low'] < $figures['auc']['value'] && $figures['auc']['value'] < $figures['auc']['high']);
        self::assertEqualsWithDelta($after['value'], $figures['auc']['value'], 0.03, 'folds and pooled rows count alike');
        // Those booked long ahead fail more often, and count more.
        self::assertNotEqualsWithDelta($figures['baseRate'] * (1 - $figures['baseRate']), $figures['baseline']['brier'], 1e-4);
        $cut = $figures['cutoffs'][10];
        self::assertSame(
            $figures['rows'] - $figures['unanswered'],
            $cut['tp'] + $cut['fp'] + $cut['fn'] + $cut['tn'],
            'counts count records',
        );
        self::assertNotNull($this->judged($after['id'], 'POST', 'seal')['figures']['sealed']['brier']);
        foreach (['tree', 'baseline'] as $learner) {
            self::assertSame('days_ahead', $this->tried($learner)['weight']);
        }
    }

    public function testWeightsThatAreNoCountsHaveNoUnit(): void
    {
        $this->change('quoted_cost', ['use' => 'weight']);
        $line = $this->tried('tree');
        $study = $this->call('GET', '/api/studies/1');
        self::assertEqualsWithDelta($study['openRows'] - $line['weightless'], $line['weightSum'], 1e-6, 'a row is a row on average');
        self::assertGreaterThan(0.55, $line['value'], 'its leaves are not of a single row');
    }

    public function testAColumnWithoutAWeightAboveNoughtIsRefused(): void
    {
        $table = $this->columns();
        $name = 'currency';
        self::assertArrayHasKey($name, $table);
        $this->change($name, ['kind' => 'number']);
        $this->change($name, ['use' => 'weight']);
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        self::assertStringContainsString(
            'No open row has a weight above 0 in currency',
            $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'tree'], 409)['title'],
        );
    }
}
