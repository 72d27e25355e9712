<?php

declare(strict_types=1);

namespace App\Dossier;

use Dokimos\Core\Dossier\Document;
use Dompdf\Dompdf;
use Dompdf\Frame;
use Dompdf\Options;

/**
 * A dossier as PDF: the same bytes for the same document. The library writes an empty outline, the date and a random id; a pass after it
 * writes bookmarks, an id from the content, and no date.
 */
final readonly class PdfMaker
{
    public function __construct(private string $dataDirectory)
    {
    }

    /**
     * The page of each section, and how many there are; kept for as long as the document is the same.
     *
     * @return array{array<string, int>, int}
     */
    public function pages(Document $document): array
    {
        $path = $this->dataDirectory.'/cache/dossier-'.hash('xxh128', $document->html()).'.json';
        $kept = json_decode((string) @file_get_contents($path), true);
        if (\is_array($kept) && \is_array($kept[0] ?? null) && \is_int($kept[1] ?? null)) {
            return [array_map(static fn (mixed $page): int => \is_int($page) ? $page : 1, $kept[0]), $kept[1]];
        }
        [, $pages, $count] = $this->make($document);
        @file_put_contents($path, json_encode([$pages, $count]));

        return [$pages, $count];
    }

    /** @return array{string, array<string, int>, int} bytes, the page that each section begins on, and how many pages there are */
    public function make(Document $document): array
    {
        $cache = $this->dataDirectory.'/cache/fonts';
        is_dir($cache) || @mkdir($cache, 0770, true);
        $options = new Options();
        $options->setIsRemoteEnabled(false);
        $options->setIsPhpEnabled(false);
        $options->setDefaultFont('DejaVu Serif');
        $options->setFontCache($cache);
        $options->setTempDir($cache);
        $options->setIsFontSubsettingEnabled(true);
        $pdf = new Dompdf($options);
        $pdf->setPaper('A4');
        $pages = [];
        $pdf->setCallbacks([['event' => 'end_frame', 'f' => static function (Frame $frame) use (&$pages, $pdf): void {
            $node = $frame->get_node();
            if ($node instanceof \DOMElement && 'section' === $node->nodeName) {
                $pages[$node->getAttribute('id')] ??= $pdf->getCanvas()->get_page_number();
            }
        }]]);
        $pdf->loadHtml($document->html(), 'UTF-8');
        $pdf->render();
        $canvas = $pdf->getCanvas();
        $canvas->page_text(
            510,
            806,
            '{PAGE_NUM} / {PAGE_COUNT}',
            (string) $pdf->getFontMetrics()->getFont('DejaVu Sans'),
            8,
            [0.35, 0.4, 0.37],
        );
        $count = $canvas->get_page_count();
        $marks = [];
        foreach ($document->sections as $i => $section) {
            $marks[] = [($i + 1).' '.$section->name, $pages[$section->key] ?? 1];
        }

        return [self::bookmarked((string) $pdf->output(), $marks), $pages, $count];
    }

    /** @param list<array{string, int}> $marks what they say, and the page */
    private static function bookmarked(string $pdf, array $marks): string
    {
        // What differs from one moment to the next gives way to as many blanks, so that no place in the file moves.
        $pdf = (string) preg_replace_callback(
            '~/(CreationDate|ModDate) \((?:[^()\\\\]|\\\\.)*\)~s',
            static fn (array $m): string => str_repeat(' ', \strlen($m[0])),
            $pdf,
        );
        $pdf = (string) preg_replace_callback('~/ID\s*\[\s*<([0-9a-f]+)>\s*<([0-9a-f]+)>\s*\]~i', static function (array $m): string {
            return str_replace([$m[1], $m[2]], [str_repeat('0', \strlen($m[1])), str_repeat('0', \strlen($m[2]))], $m[0]);
        }, $pdf);
        if (1 !== preg_match('~/Outlines (\d+) 0 R~', $pdf, $outline) || 1 !== preg_match('~/Root (\d+) 0 R~', $pdf, $root)
            || 1 !== preg_match('~/Size (\d+)~', $pdf, $size) || 1 !== preg_match('~startxref\s+(\d+)\s+%%EOF\s*$~', $pdf, $start)
            || 1 !== preg_match('~/Kids \[([^\]]*)\]~', $pdf, $kids)) {
            return $pdf;
        }
        preg_match_all('~(\d+) 0 R~', $kids[1], $found);
        $pages = $found[1];
        $next = (int) $size[1];
        $head = (int) $outline[1];
        $objects = [
            $head => \sprintf(
                '<< /Type /Outlines /First %d 0 R /Last %d 0 R /Count %d >>',
                $next,
                $next + \count($marks) - 1,
                \count($marks),
            ),
        ];
        foreach ($marks as $i => [$says, $page]) {
            $objects[$next + $i] = \sprintf(
                '<< /Title <%s> /Parent %d 0 R%s%s /Dest [%d 0 R /Fit] >>',
                'FEFF'.strtoupper(bin2hex(mb_convert_encoding($says, 'UTF-16BE', 'UTF-8'))),
                $head,
                $i > 0 ? \sprintf(' /Prev %d 0 R', $next + $i - 1) : '',
                $i < \count($marks) - 1 ? \sprintf(' /Next %d 0 R', $next + $i + 1) : '',
                (int) ($pages[$page - 1] ?? $pages[0] ?? 1),
            );
        }
        $pdf = rtrim($pdf)."\n";
        $table = "xref\n";
        foreach ($objects as $number => $body) {
            $table .= \sprintf("%d 1\n%010d 00000 n \n", $number, \strlen($pdf));
            $pdf .= "$number 0 obj\n$body\nendobj\n";
        }
        $at = \strlen($pdf);
        $id = md5($pdf);

        return $pdf.$table.\sprintf(
            "trailer\n<< /Size %d /Root %s 0 R /Prev %d /ID [<%s><%s>] >>\nstartxref\n%d\n%%%%EOF\n",
            $next + \count($marks),
            $root[1],
            (int) $start[1],
            $id,
            $id,
            $at,
        );
    }
}
