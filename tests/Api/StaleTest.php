<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Doctrine\DBAL\Connection;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learners\Learners;

/** A trial that would come out otherwise today says which algorithm has changed. */
final class StaleTest extends ApiTestCase
{
    public function testItNamesWhatIsComputedDifferently(): void
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $id = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'baseline'], 202)['subject'];
        $this->work();
        $stale = fn (): string => implode(' ', array_column($this->call('GET', '/api/studies/1/trials')['trials'], 'stale', 'id')[$id]);
        self::assertSame('', $stale());
        foreach ([
            '5.1' => 'baseline',
            '6.0' => 'the steps of the preparation',
            '1.0' => 'baseline and the steps of the preparation',
            '' => 'baseline and the steps of the preparation',
        ] as $code => $what) {
            $sql = $this->service(Connection::class);
            $kept = json_decode((string) $sql->fetchOne('SELECT ancestry FROM trial WHERE id = ?', [$id]), true);
            $sql->executeStatement('UPDATE trial SET ancestry = ? WHERE id = ?', [json_encode(['code' => (string) $code] + $kept), $id]);
            $this->entities()->clear();
            self::assertSame("this version of Dokimos computes $what differently", $stale());
        }
    }

    public function testEveryLearnerHasACardThatReadsItsModels(): void
    {
        foreach (Learners::all() as $about) {
            $card = Learners::card($about->name);
            self::assertGreaterThanOrEqual(1, $card->version);
            self::assertTrue(method_exists($card->model, 'fromArray'));
            self::assertSame('baseline' !== $about->name, Learners::needsColumns($about->name));
        }
        $this->expectException(CannotFit::class);
        Learners::card('moon');
    }
}
