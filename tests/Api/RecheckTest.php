<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Trial\Newer;

/** A trial is held against newer records, and what follows from that. */
final class RecheckTest extends ApiTestCase
{
    private int $study = 0;
    private int $trial = 0;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $study = $this->call('GET', '/api/studies/1');
        $this->study = (int) $study['id'];
        $variant = $this->call('GET', "/api/studies/$this->study/preparation")['variants'][0]['id'];
        $this->trial = (int) $this->call(
            'POST',
            "/api/studies/$this->study/trials",
            ['variantId' => $variant, 'learner' => 'logistic'],
            202,
        )['subject'];
        $this->work();
    }

    private function table(string $name): int
    {
        foreach ($this->call('GET', "/api/studies/$this->study/tables") as $table) {
            if ($table['name'] === $name) {
                return (int) $table['id'];
            }
        }
        self::fail("There is no table $name.");
    }

    /** @return array<string, mixed> */
    private function told(): array
    {
        return $this->call('GET', "/api/studies/$this->study/rechecks")[0];
    }

    public function testALaterMonthPutsItToTheTest(): void
    {
        $table = $this->table('visits_recent');
        $asked = ['tableId' => $table, 'cutoff' => 0.2, 'groups' => ['slot']];
        $this->call('POST', "/api/trials/$this->trial/rechecks", ['tableId' => $this->call('GET', '/api/studies/1')['tableId']], 409);
        $this->call('POST', "/api/trials/$this->trial/rechecks", ['tableId' => 999999], 404);
        $this->call('POST', "/api/trials/$this->trial/rechecks", ['groups' => ['nothing']] + $asked, 422);
        $this->call('POST', "/api/trials/$this->trial/rechecks", ['matters' => -1] + $asked, 422);
        $this->call('POST', "/api/trials/$this->trial/rechecks", $asked, 202);
        self::assertSame('waiting', $this->told()['state']);
        $this->work();
        $recheck = $this->told();
        self::assertSame('done', $recheck['state'], (string) $recheck['failure']);
        $told = $recheck['told'];
        self::assertContains($recheck['verdict'], ['too few to tell', 'holds', 'wearing off', 'no longer']);
        self::assertNotSame([], $told['reasons']);
        self::assertSame('auc', $told['figures'][0]['key']);
        self::assertSame(['caught', 'right'], array_column(\array_slice($told['figures'], -2), 'key'));
        self::assertEqualsWithDelta(
            $told['figures'][0]['now']['value'] - $told['figures'][0]['then']['value'],
            $told['figures'][0]['difference']['value'],
            1e-9,
        );
        self::assertSame('rows it had not learned from', $told['examined']);
        // Two of them have no day.
        self::assertSame($told['outcomes'] - 2, array_sum(array_column($told['periods'], 'rows')));
        self::assertSame('slot', $told['groups'][0]['by']);
        // The demo plants it: visits of the later month were booked earlier.
        $moved = array_filter($told['columns'], static fn (array $c): bool => $c['holm'] < 0.05 && 'visit_date' !== $c['column']);
        self::assertSame(['days_ahead'], array_values(array_column($moved, 'column')));
        self::assertSame(['leave', 'calibrate', 'anew'], array_column($told['remedies'], 'key'));
        $points = array_map(abs(...), array_column($told['columns'], 'points'));
        $sorted = $points;
        rsort($sorted);
        self::assertSame($sorted, $points, 'what does most to the answers stands first');

        // Calibrated on the earlier part it is one too: the same on the study's folds in rank, and on the newest what the remedy said.
        $this->call('POST', "/api/rechecks/{$recheck['id']}/calibrate", null, 202);
        $this->work();
        $set = $this->call('GET', "/api/studies/$this->study/trials")['trials'];
        $set = array_column($set, null, 'id')[max([0, ...array_column($set, 'id')])];
        self::assertContains(\sprintf('calibrated on %d newer records of visits_recent', 0.6 * $recheck['rows']), $set['settings']);
        $this->call('POST', "/api/trials/{$set['id']}/rechecks", $asked, 202);
        $this->work();
        $newest = array_column($told['remedies'], null, 'key')['calibrate'];
        $own = array_column($this->told()['told']['figures'], null, 'key')['auc'];
        self::assertEqualsWithDelta($newest['figure']['value'], $own['now']['value'], 1e-9);
        self::assertEqualsWithDelta($newest['promise']['now']['value'], $this->told()['told']['promise']['now']['value'], 1e-9);

        // Fitted on both, it is a trial like any other, and is compared on newest records that neither has read.
        $this->call('POST', "/api/rechecks/{$recheck['id']}/anew", null, 202);
        $this->work();
        $trials = $this->call('GET', "/api/studies/$this->study")['trials'];
        $anew = max([0, ...array_column($trials, 'id')]);
        self::assertGreaterThan($this->trial, $anew);
        $this->call('POST', "/api/trials/$anew/rechecks", $asked, 202);
        $this->work();
        $again = $this->told();
        self::assertSame('done', $again['state'], (string) $again['failure']);
        self::assertLessThan($told['answered'], $again['told']['answered']);
        $newest = array_column($told['remedies'], null, 'key')['anew'];
        self::assertEqualsWithDelta($newest['figure']['value'], $again['told']['figures'][0]['now']['value'], 1e-9);
    }

    public function testAModelInUseIsLookedAtLaterOnTheGroundOfARecheck(): void
    {
        $this->call('POST', "/api/trials/$this->trial/rechecks", ['tableId' => $this->table('visits_recent')], 202);
        $id = $this->told()['id'];
        $day = static fn (string $in): array => ['again' => (new \DateTimeImmutable($in))->format('Y-m-d')];
        $this->call('POST', "/api/rechecks/$id/later", $day('+2 years'), 409);
        $this->call('POST', "/api/trials/$this->trial/approvals", [
            'sentence' => 'It orders visits well.', 'limits' => 'Not for prices.', 'rule' => 'refuse', 'cutoff' => 0.2,
        ] + $day('+1 year'), 201);
        self::assertSame('The recheck is not done.', $this->call('POST', "/api/rechecks/$id/later", $day('+2 years'), 409)['title']);
        $this->work();
        $this->call('POST', "/api/rechecks/$id/later", $day('+6 months'), 422);
        $this->call('POST', "/api/rechecks/$id/later", ['again' => 'soon'], 422);
        $view = $this->call('POST', "/api/rechecks/$id/later", $day('+2 years'));
        self::assertSame($day('+2 years')['again'], $view['again']);
        self::assertSame([$view['again']], array_column($view['later'], 'again'));
        self::assertSame($this->told()['verdict'], $view['later'][0]['verdict']);
    }

    public function testARoutineRechecksWhatItScores(): void
    {
        $made = $this->call('POST', "/api/studies/$this->study/routines", [
            'trialId' => $this->trial,
            'name' => 'A month later',
            'plan' => ['table' => 'visits_recent', 'cutoff' => 0.2, 'recheck' => true],
        ], 201);
        $this->call('POST', "/api/routines/{$made['id']}/run", null, 202);
        $this->work();
        $this->work();
        $recheck = $this->told();
        self::assertSame(['done', 'visits_recent'], [$recheck['state'], $recheck['tableName']]);
        self::assertSame('caught', $recheck['told']['figures'][\count($recheck['told']['figures']) - 2]['key']);
    }

    public function testWithoutOutcomesWhatMovedIsToldAlone(): void
    {
        $this->call('POST', "/api/trials/$this->trial/rechecks", ['tableId' => $this->table('bookings')], 202);
        $this->work();
        $recheck = $this->told();
        self::assertSame('too few to tell', $recheck['verdict']);
        self::assertSame(0, $recheck['told']['outcomes']);
        self::assertNotSame([], $recheck['told']['columns']);
        self::assertCount(11, $recheck['told']['answers']['now']);
        self::assertSame([], $recheck['told']['remedies']);
    }

    /** What versions before kept of newer records had neither their use nor the name of their table. */
    public function testNewerRecordsAreReadAsEveryVersionKeptThem(): void
    {
        $kept = ['table' => 7, 'by' => 'visit_date', 'rows' => 1200];
        self::assertSame('learned from 1,200 newer records', Newer::fromArray($kept)->said());
        self::assertSame('learned from 1,200 newer records of June', Newer::fromArray($kept + ['name' => 'June'])->said());
        $new = new Newer(7, null, 40, Newer::CALIBRATE, 'June');
        self::assertSame('calibrated on 40 newer records of June', $new->said());
        self::assertEquals($new, Newer::fromArray($new->toArray()));
    }
}
