<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Dossier\DossierCommand;
use Smalot\PdfParser\Parser;
use Symfony\Component\Console\Tester\CommandTester;

/** The dossier tells a study, leaves out what is left out, and is the same bytes for the same study. */
final class DossierTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    private function bytes(string $query): string
    {
        $this->client->request('GET', '/api/studies/2/dossier/file?'.$query);
        self::assertSame(200, $this->client->getResponse()->getStatusCode());

        return (string) $this->client->getInternalResponse()->getContent();
    }

    public function testItTellsTheStudyInSentences(): void
    {
        $view = $this->call('GET', '/api/studies/2/dossier');
        self::assertSame(
            [
                'short',
                'question',
                'table',
                'preparation',
                'trials',
                'judgment',
                'reasons',
                'decisions',
                'recheck',
                'approvals',
                'methods',
                'logbook',
            ],
            array_column($view['sections'], 'key'),
        );
        self::assertSame([false, false], array_column(\array_slice($view['sections'], -2), 'on'));
        self::assertGreaterThan(4, $view['pages']);
        $pages = array_filter(array_column($view['sections'], 'page'));
        $sorted = $pages;
        sort($sorted);
        self::assertSame($sorted, $pages);
        $short = $view['sections'][0]['html'];
        self::assertStringContainsString('leads:', $short);
        self::assertStringContainsString('doing nothing scores', $short);
        self::assertStringContainsString('The seal is closed', $short);
        self::assertStringContainsString('whatever is scored is <a href="/study/2/decisions/service"><strong>a draft</strong></a>', $short);
        self::assertStringContainsString('data:image/svg+xml', $short);
        self::assertStringNotContainsString('<script', implode('', array_column($view['sections'], 'html')));
    }

    public function testThePdfHasItsTextItsBookmarksAndTheSameBytes(): void
    {
        $pdf = $this->bytes('format=pdf');
        sleep(1);
        self::assertSame($pdf, $this->bytes('format=pdf'), 'the same study, the same bytes');
        $read = (new Parser())->parseContent($pdf);
        $text = $read->getText();
        $view = $this->call('GET', '/api/studies/2/dossier');
        self::assertCount($view['pages'], $read->getPages());
        foreach ($view['sections'] as $section) {
            $told = str_contains($text, $section['name']);
            $section['on'] ? self::assertTrue($told, $section['name']) : self::assertNull($section['page']);
        }
        $titles = [];
        preg_match_all('/\/Title <FEFF([0-9A-F]+)> \/Parent/', $pdf, $found);
        foreach ($found[1] as $hex) {
            $titles[] = mb_convert_encoding((string) hex2bin($hex), 'UTF-8', 'UTF-16BE');
        }
        $on = array_values(array_filter($view['sections'], static fn (array $s): bool => $s['on']));
        self::assertSame(array_map(static fn (array $s, int $i): string => ($i + 1).' '.$s['name'], $on, array_keys($on)), $titles);
        self::assertStringNotContainsString('/CreationDate (', $pdf);
        $short = (new Parser())->parseContent($this->bytes('format=pdf&short=1'));
        self::assertCount(1, $short->getPages());
    }

    public function testSectionsAreLeftOutAndComments(): void
    {
        $comment = [
            'section' => 'trials',
            'text' => 'Ask <b>Orrell</b> whether it holds.',
            'print' => true,
            'quote' => '2 trials were made',
        ];
        $view = $this->call('PUT', '/api/studies/2/dossier', [
            'off' => ['table', 'logbook'],
            'comments' => [$comment, ['section' => 'judgment', 'text' => 'For us alone.', 'print' => false]],
        ]);
        self::assertFalse(array_column($view['sections'], 'on', 'key')['table']);
        self::assertTrue(array_column($view['sections'], 'on', 'key')['methods']);
        self::assertSame(['Mara Kell', 'Mara Kell'], array_column($view['comments'], 'by'));
        $html = $this->bytes('format=html');
        self::assertStringContainsString('Ask &lt;b&gt;Orrell&lt;/b&gt; whether it holds.', $html);
        self::assertStringContainsString('<strong><mark>2 trials</mark></strong><mark> were made</mark>', $html);
        self::assertStringContainsString('“2 trials were made” Ask', $html);
        self::assertStringNotContainsString('<a href', $html, 'a file opens no screen');
        self::assertStringNotContainsString('For us alone.', $html);
        self::assertStringNotContainsString('id="table"', $html);
        self::assertStringNotContainsString('http://', str_replace('http://www.w3.org/2000/svg', '', $html), 'nothing outside the file');
        $this->call('PUT', '/api/studies/2/dossier', ['off' => ['nothing']], 422);
        $this->call('PUT', '/api/studies/2/dossier', ['off' => array_column($view['sections'], 'key')], 422);
        $this->call('PUT', '/api/studies/2/dossier', ['comments' => [['section' => 'trials', 'text' => ' ']]], 422);
        $this->call('GET', '/api/studies/2/dossier/file?format=docx', null, 422);
    }

    public function testAStudyWithoutATrialHasOneToo(): void
    {
        $study = $this->call('POST', '/api/studies', ['name' => 'Empty', 'question' => ''], 201);
        $view = $this->call('GET', "/api/studies/{$study['id']}/dossier");
        self::assertStringContainsString('No table has been imported.', $view['sections'][0]['html']);
    }

    public function testTheCommandLineWritesTheSame(): void
    {
        $out = sys_get_temp_dir().'/dossier-'.bin2hex(random_bytes(4)).'.pdf';
        $command = new CommandTester($this->service(DossierCommand::class));
        $command->execute(['study' => '2', '--out' => $out]);
        self::assertStringContainsString('SHA-256', $command->getDisplay());
        self::assertSame(1, $command->execute(['study' => '99', '--out' => $out]));
        self::assertSame(1, $command->execute(['study' => '2', '--out' => 'paper.docx']));
        self::assertSame($this->bytes('format=pdf'), (string) file_get_contents($out));
        unlink($out);
    }
}
