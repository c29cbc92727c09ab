package picture

import (
	"bytes"
	"encoding/binary"
	"image/jpeg"
	"image/png"
	"net/http"
)

// Clean makes a picture ready to be kept as [Take] does, but leaves one as it is that has
// nothing more to lose: what was kept once comes out of a bundle byte for byte.
func Clean(body []byte) (Taken, error) {
	switch http.DetectContentType(body) {
	case "image/png":
		if c, err := png.DecodeConfig(bytes.NewReader(body)); err == nil && bare(body) && max(c.Width, c.Height) <= LongEdge && len(body) <= MaxBytes {
			if _, err := png.Decode(bytes.NewReader(body)); err == nil {
				return Taken{"image/png", body, c.Width, c.Height}, nil
			}
		}
	case "image/jpeg":
		if c, err := jpeg.DecodeConfig(bytes.NewReader(body)); err == nil && bareJPEG(body) && max(c.Width, c.Height) <= LongEdge && len(body) <= MaxBytes {
			if _, err := jpeg.Decode(bytes.NewReader(body)); err == nil {
				return Taken{"image/jpeg", body, c.Width, c.Height}, nil
			}
		}
	default:
		if taken, err := Take(body); err != nil || taken.Type != "image/svg+xml" || drawsOnly(body) != nil {
			return taken, err
		} else {
			taken.Body = body // a plain drawing already
			return taken, nil
		}
	}
	return Take(body)
}

// bare says whether a PNG has its pixels and nothing else (W3C PNG, 5.6).
func bare(body []byte) bool {
	at := 8
	for at+12 <= len(body) {
		n := int(binary.BigEndian.Uint32(body[at:]))
		switch string(body[at+4 : at+8]) {
		case "IHDR", "PLTE", "tRNS", "IDAT":
		case "IEND":
			return at+12+n == len(body)
		default:
			return false
		}
		if n < 0 || n > len(body) {
			return false
		}
		at += 12 + n
	}
	return false
}

// bareJPEG says whether a JPEG has neither data of applications nor comments before its
// pixels, and nothing behind them.
func bareJPEG(body []byte) bool {
	if !bytes.HasSuffix(body, []byte{0xFF, 0xD9}) {
		return false
	}
	for i := 2; i+4 <= len(body) && body[i] == 0xFF; {
		marker := body[i+1]
		if marker >= 0xE0 && marker <= 0xEF || marker == 0xFE {
			return false
		}
		if marker == 0xDA {
			// Within the pixels a marker can only be an escaped byte or a restart.
			for rest := body[i+2 : len(body)-2]; ; {
				k := bytes.IndexByte(rest, 0xFF)
				if k < 0 {
					return true
				}
				if k+1 < len(rest) && rest[k+1] != 0 && !(rest[k+1] >= 0xD0 && rest[k+1] <= 0xD7) {
					return false
				}
				rest = rest[min(k+2, len(rest)):]
			}
		}
		i += 2 + int(binary.BigEndian.Uint16(body[i+2:]))
	}
	return false
}
