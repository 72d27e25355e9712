<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** Columns named with digits, and other odd names, go through all six stations. */
final class DigitsTest extends ApiTestCase
{
    private const NAMES = ['2023', '2024', '0', 'größe (m²)', "it's, \"quoted\"", '=sum', '2025'];

    private function csv(bool $outcome, int $rows): string
    {
        mt_srand(21);
        $quote = static fn (string $n) => '"'.str_replace('"', '""', $n).'"';
        $csv = implode(',', array_map($quote, $outcome ? self::NAMES : \array_slice(self::NAMES, 0, 6)))."\n";
        for ($i = 0; $i < $rows; ++$i) {
            $x = mt_rand(-100, 100) / 30;
            $color = ['red', 'green', '7', '=1+1'][mt_rand(0, 3)];
            $cells = [$x, mt_rand(0, 9) > 7 ? '' : mt_rand(1, 50), $color, mt_rand(1, 999) / 7, 'k'.$i, mt_rand(0, 5)];
            $csv .= implode(',', $cells).($outcome ? ','.(mt_rand() / mt_getrandmax() < 1 / (1 + exp(-$x)) ? 'yes' : 'no') : '')."\n";
        }

        return $csv;
    }

    public function testAllStations(): void
    {
        $this->signIn();
        $id = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Years', 'question' => 'Which?', 'uploadId' => $this->upload($this->csv(true, 400), 'years.csv')],
            201,
        )['id'];
        $this->work();
        $study = $this->call('GET', "/api/studies/$id");
        $register = $this->call('GET', '/api/tables/'.$study['tableId']);
        self::assertSame(self::NAMES, array_column($register['columns'], 'name'));
        self::assertSame(self::NAMES, $this->call('GET', '/api/tables/'.$study['tableId'].'/rows?limit=2&sort=2023')['names']);
        $study = $this->call(
            'PUT',
            "/api/studies/$id/target",
            ['column' => '2025', 'event' => 'yes'],
            200,
            ['If-Match' => (string) $study['version']],
        );
        self::assertSame('2025', $study['target']);
        foreach ($register['columns'] as $column) {
            self::assertSame($column['name'], $this->call('GET', '/api/columns/'.$column['id'])['column']['name']);
        }
        $variant = $this->call('GET', "/api/studies/$id/preparation")['variants'][0];
        self::assertSame(['2024'], array_column($variant['left'], 'name'));
        $variant = $this->call(
            'PUT',
            '/api/variants/'.$variant['id'],
            ['steps' => [
                ['step' => 'fill_missing', 'columns' => ['2024'], 'method' => 'median', 'mark' => true],
                ['step' => 'set_aside', 'columns' => ['=sum']],
            ]],
            200,
            ['If-Match' => (string) $variant['version']],
        );
        self::assertSame([0, null], [$variant['missingAfter'], $variant['problem']]);
        $this->call('POST', "/api/studies/$id/trials", ['variantId' => $variant['id']], 202);
        $this->work();
        $trial = $this->call('GET', "/api/studies/$id/trials")['trials'][0];
        self::assertSame(['done', null], [$trial['state'], $trial['failure']]);
        self::assertGreaterThan(0.75, $trial['value']);
        $names = array_column($this->judged($trial['id'])['coefficients'], 'name');
        foreach (['2023', '2024', '2024_was_missing=yes', '0=green', 'größe (m²)'] as $name) {
            self::assertContains($name, $names);
        }
        $reasons = $this->call('GET', '/api/trials/'.$trial['id'].'/reasons/5');
        self::assertContains('2023', array_column($reasons['contributions'], 'column'));
        foreach (array_column($reasons['contributions'], 'column') as $column) {
            self::assertIsString($column);
        }

        self::assertSame(80, $this->judged($trial['id'], 'POST', 'seal')['sealed']['rows']);

        $this->call(
            'POST',
            "/api/studies/$id/tables",
            ['uploadId' => $this->upload($this->csv(false, 40), 'new.csv'), 'name' => 'new'],
            202,
        );
        $this->work();
        $new = array_column($this->call('GET', "/api/studies/$id/tables"), 'id', 'name')['new'];
        $match = $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial['id'], 'tableId' => $new]);
        self::assertSame([], $match['problems']);
        self::assertSame(\array_slice(self::NAMES, 0, 6), $match['columns']);
        $job = $this->call('POST', "/api/studies/$id/scorings", ['trialId' => $trial['id'], 'tableId' => $new, 'cutoff' => 0.5], 202);
        $this->work();
        $path = '/api/scorings/'.$job['subject'];
        self::assertSame(40, $this->call('GET', $path)['scored']);
        $rows = $this->call('GET', $path.'/rows?carry[]=2023&carry[]=0&sort=2023&descending=0');
        self::assertSame(['2023', '0'], $rows['names']);
        $cells = array_map(static fn (array $r) => (float) $r['cells'][0], $rows['rows']);
        $sorted = $cells;
        sort($sorted);
        self::assertSame($sorted, $cells);
        $this->client->request('GET', $path.'/file?carry[]=2023&carry[]=0&carry[]==sum&carry[]=gone');
        $lines = explode("\r\n", trim((string) $this->client->getInternalResponse()->getContent()));
        self::assertSame("2023,0,'=sum,2025_chance,called,because,status", $lines[0]);
        self::assertStringContainsString(",'=1+1,", implode("\n", $lines), 'a cell that a spreadsheet would run is guarded');
        $kept = $this->call('POST', $path.'/table', ['name' => 'digits scored'], 202)['subject'];
        $this->work();
        $names = array_column($this->call('GET', "/api/tables/$kept")['columns'], 'name');
        self::assertSame(\array_slice(self::NAMES, 0, 6), \array_slice($names, 0, 6));
        $terms = ['cost' => 0.1, 'works' => 0.5, 'worksHigh' => 0.5, 'worthColumn' => '2023', 'each' => 2, 'eachBy' => '0'];
        $list = $this->call('POST', $path.'/decisions', ['terms' => $terms], 201);
        $taken = ['columns' => [['of' => '2023', 'as' => '0'], ['of' => '=return', 'as' => '7'], ['of' => '=sum', 'as' => '']]];
        $this->call('POST', "/api/decisions/{$list['id']}/file", $taken);
        $lines = explode("\r\n", trim($this->client->getInternalResponse()->getContent()));
        self::assertSame('0,7,sum', $lines[0]);
        self::assertCount(1 + $list['acted']['actions'], $lines);
    }
}
