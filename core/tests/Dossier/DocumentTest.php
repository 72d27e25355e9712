<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Dossier;

use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Document;
use Dokimos\Core\Dossier\Drawing;
use Dokimos\Core\Dossier\Section;
use PHPUnit\Framework\TestCase;

/** What a dossier is made of: nothing that is told becomes a command of the page, and pictures are whole. */
final class DocumentTest extends TestCase
{
    public function testWhatIsToldIsNoMarkup(): void
    {
        $evil = '<script>alert(1)</script> & "quotes" *strong* 3 * 4';
        $html = (new Document($evil, $evil, [new Section('one', $evil, $evil, [
            Block::text($evil),
            Block::table($evil, [$evil, 'n'], [[$evil, '1,204 ± 3'], ['plain', 'words']]),
            Block::picture($evil, Drawing::lines([$evil => [[0.0, 0.1], [1.0, 0.9]]], [0.0, 1.0], [0.0, 1.0], $evil, '')),
        ])], [
            ['section' => 'one', 'by' => $evil, 'text' => $evil, 'quote' => $evil, 'print' => true],
            ['section' => 'two', 'by' => 'x', 'text' => 'of another section', 'quote' => '', 'print' => true],
        ]))->html();
        self::assertStringNotContainsString('<script', $html);
        self::assertStringContainsString(
            '&lt;script&gt;alert(1)&lt;/script&gt; &amp; &quot;quotes&quot; <strong>strong</strong> 3 * 4',
            $html,
        );
        self::assertStringContainsString('<td class="n">1,204 ± 3</td>', $html);
        self::assertStringContainsString('<td>words</td>', $html);
        self::assertStringNotContainsString('of another section', $html);
        $page = new \DOMDocument();
        self::assertTrue(@$page->loadHTML($html));
        self::assertSame(1, $page->getElementsByTagName('section')->length);
    }

    public function testWordsThatAreCommentedOnAreMarkedAndStrongOnesOpenTheirScreen(): void
    {
        $told = static fn (string $quote, bool $links = false, bool $print = false): string => (new Document('a', 'b', [
            new Section('one', 'One', 'of one', [Block::text('Of 100 visits *17.2* need a *second* trip.', '/study/1/judgment?a=1&b=2')]),
        ], [['section' => 'one', 'by' => 'Mara', 'text' => 'Ask.', 'quote' => $quote, 'print' => $print]]))->inner(0, $links);
        foreach ([
            'visits 17.2 need' => 'Of 100 <mark>visits </mark><strong><mark>17.2</mark></strong><mark> need</mark> a '
                .'<strong>second</strong> trip.',
            '7.2' => 'Of 100 visits <strong>1<mark>7.2</mark></strong> need a <strong>second</strong> trip.',
            'Of 100 visits 17.2 need a second trip.' => '<mark>Of 100 visits </mark><strong><mark>17.2</mark></strong><mark> need a </mark>'
                .'<strong><mark>second</mark></strong><mark> trip.</mark>',
            'what is not there' => 'Of 100 visits <strong>17.2</strong> need a <strong>second</strong> trip.',
        ] as $quote => $expected) {
            self::assertStringContainsString($expected, $told($quote));
        }
        self::assertStringNotContainsString('Ask.', $told('7.2'));
        self::assertStringContainsString('“7.2” Ask.', $told('7.2', false, true));
        self::assertStringContainsString('<a href="/study/1/judgment?a=1&amp;b=2"><strong>second</strong></a>', $told('', true));
        self::assertStringNotContainsString('<a ', $told('', false));
    }

    public function testPicturesAreWellFormedWhateverTheyShow(): void
    {
        $odd = [
            [],
            [['only a name <&>', null, null, null]],
            [['one', 0.5, 0.5, 0.5]],
            [['far', -1e9, -2e9, 1e9], ['near', 0.0, null, null]],
        ];
        foreach ($odd as $lines) {
            self::assertInstanceOf(\SimpleXMLElement::class, simplexml_load_string(Drawing::intervals($lines, 'below', 0.0)));
        }
        foreach ([[], ['a' => []], ['a' => [[0.0, 0.0]], 'b' => [[0.0, 1.0], [1.0, 0.0]], 'c & d' => [[0.5, 0.5]]]] as $lines) {
            self::assertInstanceOf(
                \SimpleXMLElement::class,
                simplexml_load_string(Drawing::lines($lines, [0.0, 0.0], [0.0, 1.0], '<', '', true)),
            );
        }
    }

    public function testSectionsAreCountedFromWhereTheyStand(): void
    {
        $document = new Document('a', 'b', [new Section('x', 'X', 'of x', []), new Section('y', 'Y', 'of y', [])]);
        self::assertStringContainsString('1 X', $document->inner());
        self::assertStringContainsString('5 Y', $document->inner(3));
    }
}
