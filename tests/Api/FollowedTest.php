<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Demo\VisitGenerator;

/** What an analyst has who does what the findings and the advice propose, and nothing else. */
final class FollowedTest extends ApiTestCase
{
    public function testFollowingFindingsAndAdviceMendsWhatIsPlantedAndKeepsTheRows(): void
    {
        $this->signIn();
        $csv = implode('', iterator_to_array(VisitGenerator::forPart(11, 'visits')->visits(6000), false));
        $study = $this->call('POST', '/api/studies', ['name' => 'Followed'], 201)['id'];
        $table = $this->call('POST', "/api/studies/$study/tables", ['uploadId' => $this->upload($csv), 'name' => 'visits'], 202)['subject'];
        $this->work();
        $version = (string) $this->call('GET', "/api/studies/$study")['version'];
        $this->call(
            'PUT',
            "/api/studies/$study/target",
            ['column' => 'return_visit', 'event' => 'yes', 'tableId' => $table],
            200,
            ['If-Match' => $version],
        );
        $this->work();
        $steps = $done = [];
        // What one remedy changes decides what is found next: findings are read again until nothing new is proposed.
        do {
            $proposed = null;
            $findings = $this->call('GET', "/api/tables/$table/findings")['findings'];
            foreach ($findings as $finding) {
                $remedy = $finding['remedies'][0] ?? null;
                if (null !== $remedy && !isset($done[$finding['key']])) {
                    $proposed = $remedy;
                    $done[$finding['key']] = true;
                    break;
                }
            }
            if (null !== $proposed && 'step' === $proposed['do']) {
                $steps[] = $proposed['step'];
            } elseif (null !== $proposed) {
                $column = array_column($this->call('GET', "/api/tables/$table")['columns'], null, 'name')[$proposed['column']];
                $this->call('PATCH', '/api/columns/'.$column['id'], match ($proposed['do']) {
                    'set aside' => ['use' => 'set aside'],
                    'key' => ['use' => 'key'],
                    'known afterwards' => ['known' => false],
                    default => ['kind' => $proposed['to']],
                }, 200, ['If-Match' => (string) $column['version']]);
                $this->work();
            }
        } while (null !== $proposed);
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0];
        $preview = fn (array $steps): array => $this->call('POST', '/api/variants/'.$variant['id'].'/preview', ['steps' => $steps]);
        $left = $preview($steps)['left'];
        self::assertSame(['travel_km'], array_column($left, 'name'), 'what stood for missing is missing now');
        // The button beside what is still missing drafts this.
        $steps[] = ['step' => 'fill_missing', 'columns' => array_column($left, 'name'), 'method' => 'median'];
        $view = $preview($steps);
        self::assertSame([null, 0, []], [$view['problem'], $view['missingAfter'], $view['left']]);
        self::assertGreaterThanOrEqual(0.99 * $view['rowsBefore'], $view['rowsAfter']);
        $columns = array_column($this->call('GET', "/api/tables/$table")['columns'], null, 'name');
        self::assertSame(
            ['set aside', 'set aside', 'set aside', 'category', false, false, 'key'],
            [
                $columns['depot']['use'],
                $columns['currency']['use'],
                $columns['access_code']['use'],
                $columns['boiler_class']['kind'],
                $columns['parts_ordered_after']['known'],
                $columns['outcome']['known'],
                $columns['household_id']['use'],
            ],
        );
        $treated = array_map(static fn (array $s) => $s['step'].' '.implode(',', $s['columns'] ?? [$s['column']]), $steps);
        foreach ([
            'recode travel_km',
            'fill_missing boiler_age',
            'outliers travel_km',
            'fill_missing contact_channel',
            'scale quoted_cost',
        ] as $mended) {
            self::assertContains($mended, $treated);
        }
    }
}
