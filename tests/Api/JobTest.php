<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Job\PieceProgress;
use App\Job\PieceQueue;
use App\Job\RunPiece;
use App\Job\RunPieceHandler;
use Doctrine\DBAL\Connection;
use Dokimos\Core\Stopped;

/** Leases, cancelling, and workers that die. */
final class JobTest extends ApiTestCase
{
    private function start(): int
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $id = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant], 202)['id'];
        \assert(\is_int($id));

        return $id;
    }

    private function queue(): PieceQueue
    {
        return $this->service(PieceQueue::class);
    }

    private function sql(): Connection
    {
        return $this->service(Connection::class);
    }

    public function testAWaitingJobIsCancelledAtOnceAndSaysSo(): void
    {
        $job = $this->start();
        self::assertSame('cancelled', $this->call('POST', "/api/jobs/$job/cancel")['state']);
        self::assertNull($this->queue()->claim('long', 'w'));
        self::assertSame('cancelled', $this->call('GET', '/api/studies/1/trials')['trials'][0]['state']);
    }

    public function testARunningPieceStopsWhenItNextReports(): void
    {
        $job = $this->start();
        $piece = (int) $this->queue()->claim('long', 'w');
        self::assertSame('running', $this->call('POST', "/api/jobs/$job/cancel")['state']);
        $this->expectException(Stopped::class);
        (new PieceProgress($this->queue(), $piece))->report(0.5);
    }

    public function testAPieceWhoseWorkerDiedIsHandedOutAgain(): void
    {
        $this->start();
        $piece = $this->queue()->claim('long', 'dies');
        self::assertNotNull($piece);
        self::assertNotSame($piece, $this->queue()->claim('long', 'other'), 'a lease holds');
        $this->sql()->executeStatement('UPDATE job_piece SET lease_until = 1 WHERE id = ?', [$piece]);
        $again = [];
        while (null !== $next = $this->queue()->claim('long', 'third')) {
            $again[] = $next;
        }
        self::assertContains($piece, $again);
    }

    public function testBeingStoppedCostsNoAttemptAndFallingOverDoes(): void
    {
        $job = $this->start();
        $attempts = fn (): int => (int) $this->sql()->fetchOne('SELECT MAX(attempts) FROM job_piece WHERE job_id = ?', [$job]);
        foreach ([[false, 0], [false, 0], [true, 1], [false, 1], [true, 2]] as [$byItself, $expected]) {
            $piece = $this->queue()->claim('long', 'here');
            self::assertNotNull($piece);
            $this->queue()->release('here', $byItself);
            self::assertSame($expected, $attempts());
            self::assertSame($piece, $this->queue()->claim('long', 'other'), 'it is handed out again at once');
            $this->queue()->release('other', false);
        }
    }

    public function testAPieceThatKillsItsWorkerTwiceFailsWithASentence(): void
    {
        $job = $this->start();
        for ($i = 0; $i < 3; ++$i) {
            $piece = $this->queue()->claim('long', 'dies');
            $this->sql()->executeStatement('UPDATE job_piece SET lease_until = 1 WHERE id = ?', [$piece]);
            $this->sql()->executeStatement(
                "UPDATE job_piece SET state = 'waiting', lease_until = NULL WHERE id <> ? AND state = 'running'",
                [$piece],
            );
        }
        $first = (int) $this->sql()->fetchOne('SELECT id FROM job_piece WHERE job_id = ? ORDER BY id LIMIT 1', [$job]);
        $this->sql()->executeStatement("UPDATE job_piece SET attempts = 3, state = 'running' WHERE id = ?", [$first]);
        $this->entities()->clear();
        $this->service(RunPieceHandler::class)(new RunPiece($first));
        $view = $this->call('GET', "/api/jobs/$job");
        self::assertSame('failed', $view['state']);
        self::assertStringContainsString('ended its worker twice', $view['message']);
        self::assertStringContainsString('ended its worker twice', $this->call('GET', '/api/studies/1/trials')['trials'][0]['failure']);
    }

    public function testAPieceDoneTwiceCountsOnceAndOneJoiningIsMade(): void
    {
        $job = $this->start();
        $handler = $this->service(RunPieceHandler::class);
        $piece = (int) $this->queue()->claim('long', 'a');
        $handler(new RunPiece($piece));
        $this->sql()->executeStatement("UPDATE job_piece SET state = 'running' WHERE id = ?", [$piece]);
        $this->entities()->clear();
        $handler(new RunPiece($piece));
        $this->work();
        self::assertSame('done', $this->call('GET', "/api/jobs/$job")['state']);
        self::assertSame(1, (int) $this->sql()->fetchOne("SELECT COUNT(*) FROM job_piece WHERE job_id = ? AND piece_key = 'join'", [$job]));
    }

    public function testRunningWorkTellsTheFigureReachedSoFar(): void
    {
        $job = $this->start();
        $handler = $this->service(RunPieceHandler::class);
        self::assertNull($this->call('GET', "/api/jobs/$job")['soFar']);
        $aucs = [];
        for ($i = 1; $i <= 2; ++$i) {
            $handler(new RunPiece((int) $this->queue()->claim('long', 'a')));
            $aucs[] = json_decode(
                (string) $this->sql()->fetchOne('SELECT figures FROM fold_result ORDER BY id DESC LIMIT 1'),
                true,
            )['figure'];
            $soFar = $this->call('GET', "/api/jobs/$job")['soFar'];
            self::assertSame(['AUC', $i], [$soFar['name'], $soFar['parts']]);
            self::assertEqualsWithDelta(array_sum($aucs) / $i, $soFar['value'], 1e-12);
        }
        $this->work();
        self::assertNull($this->call('GET', "/api/jobs/$job")['soFar'], 'the trial itself tells it now');
    }

    public function testWhatWasBegunFirstIsDoneFirst(): void
    {
        $handler = $this->service(RunPieceHandler::class);
        [$first, $second] = [$this->start(), $this->start()];
        for ($pieces = 0; 'done' !== $this->call('GET', "/api/jobs/$first")['state']; ++$pieces) {
            self::assertSame('waiting', $this->call('GET', "/api/jobs/$second")['state'], "after $pieces pieces");
            $handler(new RunPiece((int) $this->queue()->claim('long', 'a')));
            $this->entities()->clear();
        }
        self::assertGreaterThan(5, $pieces);
    }

    public function testUsersTakeTurns(): void
    {
        $first = $this->start();
        $this->sql()->executeStatement("INSERT INTO account_user (login, name, owner, disabled, password, created_at) VALUES ('zoe', 'Zoe', FALSE, FALSE, '', '2026-01-01 00:00:00')");
        $second = $this->start();
        $this->sql()->executeStatement(
            "UPDATE job SET user_id = (SELECT id FROM account_user WHERE login = 'zoe') WHERE id = ?",
            [$second],
        );
        $jobOf = fn (?int $piece): int => (int) $this->sql()->fetchOne('SELECT job_id FROM job_piece WHERE id = ?', [$piece]);
        self::assertSame([$first, $second], [$jobOf($this->queue()->claim('long', 'a')), $jobOf($this->queue()->claim('long', 'b'))]);
    }
}
